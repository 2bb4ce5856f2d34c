<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Boxes from '#lib/parts/Form/Boxes.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { listOf, write, type Stage } from '#lib/plan.ts';

  /** States of the joint, and what is put in for the work: those of its kind, those of this plan, and own ones. */
  interface Props {
    bench: Bench;
    stage: Stage;
    at: string;
    name: 'condition' | 'brings' | 'undoes' | 'hands_over';
    label: string;
    /** Whether states of the joint can be chosen, or only what was put in. */
    states?: boolean;
  }
  let { bench, stage, at, name, label, states = false }: Props = $props();
  const kind = $derived(catalogue.value?.states[bench.doc.joint_kind] ?? []);
  const put = $derived(bench.doc.stages.flatMap((s) => s.brings ?? []).filter((word) => !kind.includes(word)));
  const chosen = $derived(stage[name] ?? []);
  const known = $derived([...new Set([...(states ? kind : []), ...(catalogue.value?.safeguards ?? []), ...put].filter(Boolean))]);
  const own = $derived(chosen.filter((word) => !known.includes(word)));
</script>

<Boxes
  legend={label}
  choices={known.map((word): [string, string] => [word, word])}
  {chosen}
  error={bench.errorIn(`${at}/${name}`)}
  onchange={(now) => write(stage, name, [...now, ...own])}
/>
<QuantityField
  label="{label}: in own words"
  value={own.join(', ')}
  example="none"
  note="separated by commas"
  onchange={(text) => write(stage, name, [...chosen.filter((word) => known.includes(word)), ...listOf(text)])}
/>
