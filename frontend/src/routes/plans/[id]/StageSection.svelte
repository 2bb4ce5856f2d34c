<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Boxes from '#lib/parts/Form/Boxes.svelte';
  import Fold from '#lib/parts/Fold.svelte';
  import { fieldsOf, write } from '#lib/plan.ts';
  import Checks from './Checks.svelte';
  import Items from './Items.svelte';
  import PassTable from './PassTable.svelte';
  import StageField from './StageField.svelte';
  import StageFrame from './StageFrame.svelte';
  import Typed from './Typed.svelte';
  import type { Work } from './work.svelte.ts';

  /** One stage: condition, the fields of its kind, items, checks or passes, cautions. */
  let { bench, work, index }: { bench: Bench; work: Work; index: number } = $props();
  const stage = $derived(bench.doc.stages[index]!);
  const at = $derived(`stages/${index}`);
  const kind = $derived(catalogue.value?.stage_kinds.find((k) => k.kind === stage.kind));
  const shown = $derived((kind?.fields ?? []).filter((f) => f.main || fieldsOf(stage)[f.name] !== undefined));
  const rest = $derived((kind?.fields ?? []).filter((f) => !shown.includes(f)));
  const cautions = $derived(Object.entries(catalogue.value?.cautions ?? {}));
</script>

{#if kind?.needs_condition || stage.condition}
  <Typed {bench} part={stage} {at} name="condition" label="Only in this condition" note="separated by commas" as="list" />
{/if}
{#each shown as spec (spec.name)}<StageField {bench} {stage} {at} {spec} />{/each}
{#if 'items' in stage && stage.items}<Items {bench} {stage} items={stage.items} {at} />{/if}
{#if 'checks' in stage && stage.checks}<Checks {bench} {stage} checks={stage.checks} {at} />{/if}
{#if stage.kind === 'tighten'}<PassTable {bench} {work} {stage} {index} />{/if}
{#if stage.note}<Typed {bench} part={stage} {at} name="note" label="Note" />{/if}
<StageFrame {bench} {stage} {index} />
{#if rest.length}
  <Fold title="" more="More">
    {#each rest as spec (spec.name)}<StageField {bench} {stage} {at} {spec} />{/each}
  </Fold>
{/if}
<Fold title="" more="Cautions here: {(stage.cautions ?? []).length || 'none'}">
  <Boxes
    legend="Shown before the stage begins"
    choices={cautions}
    chosen={stage.cautions ?? []}
    error={bench.errorIn(`${at}/cautions`)}
    onchange={(now) => write(stage, 'cautions', now)}
  />
</Fold>
