<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Boxes from '#lib/parts/Form/Boxes.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { listOf, write, type Stage } from '#lib/plan.ts';
  import { sentence } from '#lib/sentence.ts';

  /**
   * States of the joint, and what is put in for the work: those of its kind, those of this plan,
   * and own ones.
   */
  interface Props {
    bench: Bench;
    stage: Stage;
    at: string;
    name: 'brings' | 'undoes' | 'hands_over';
    label: string;
    /** Whether states of the joint can be chosen, or only what was put in. */
    states?: boolean;
  }
  let { bench, stage, at, name, label, states = false }: Props = $props();
  const kind = $derived(catalogue.value?.states[bench.doc.joint_kind] ?? []);
  const put = $derived(
    bench.doc.stages.flatMap((s) => s.brings ?? []).filter((word) => !kind.includes(word)),
  );
  const chosen = $derived(stage[name] ?? []);
  const known = $derived([
    ...new Set(
      [...(states ? kind : []), ...(catalogue.value?.safeguards ?? []), ...put].filter(Boolean),
    ),
  ]);
  const own = $derived(chosen.filter((word) => !known.includes(word)));
  // half a word may be the whole of another: while somebody types, the words stay theirs and the
  // boxes as they were
  let typed = $state<{ text: string; boxes: string[] }>();
  function type(text: string): void {
    typed = { text, boxes: typed?.boxes ?? chosen.filter((word) => known.includes(word)) };
    write(stage, name, [...new Set([...typed.boxes, ...listOf(text)])]);
  }
</script>

<Boxes
  legend={label}
  choices={known.map((word): [string, string] => [word, word])}
  {chosen}
  error={bench.errorIn(`${at}/${name}`)}
  onchange={(now) => write(stage, name, [...now, ...own])}
/>
<div onfocusout={() => (typed = undefined)}>
  <QuantityField
    label={sentence('bench.own_words', { label })}
    value={typed?.text ?? own.join(', ')}
    example="none"
    note="separated by commas"
    onchange={type}
  />
</div>
