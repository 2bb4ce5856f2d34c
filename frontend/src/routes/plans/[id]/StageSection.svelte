<script lang="ts">
  import Checkbox from 'flowbite-svelte/Checkbox.svelte';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Boxes from '#lib/parts/Form/Boxes.svelte';
  import Fold from '#lib/parts/Fold.svelte';
  import { valueOf, write } from '#lib/plan.ts';
  import { sentence } from '#lib/sentence.ts';
  import { ShownFields } from '#lib/shownFields.svelte.ts';
  import Checks from './Checks.svelte';
  import ConditionFields from './ConditionFields.svelte';
  import Items from './Items.svelte';
  import OrderField from './OrderField.svelte';
  import PassTable from './PassTable.svelte';
  import StageField from './StageField.svelte';
  import StageFrame from './StageFrame.svelte';
  import States from './States.svelte';
  import Typed from './Typed.svelte';
  import type { Work } from './work.svelte.ts';

  /** One stage: condition, the fields of its kind, items, checks or passes, cautions. */
  let { bench, work, index }: { bench: Bench; work: Work; index: number } = $props();
  const stage = $derived(bench.doc.stages[index]!);
  const at = $derived(`stages/${index}`);
  const kind = $derived(catalogue.value?.stage_kinds.find((k) => k.kind === stage.kind));
  const computed = $derived(bench.result?.stages.find((one) => one.id === stage.id));
  const front = new ShownFields(() =>
    (kind?.fields ?? []).filter((f) => valueOf(stage, f.name) !== undefined).map((f) => f.name),
  );
  const shown = $derived((kind?.fields ?? []).filter((f) => f.main || front.has(f.name)));
  /** A note stands in front once it is written, and not while it is. */
  const noted = new ShownFields(() => (stage.note ? ['note'] : []));
  const rest = $derived((kind?.fields ?? []).filter((f) => !shown.includes(f)));
  const cautions = $derived(Object.entries(catalogue.value?.cautions ?? {}));
</script>

<div
  class="contents"
  onfocusout={(event) => {
    front.settle(event);
    noted.settle(event);
  }}
>
  {#if kind?.needs_condition || stage.condition}
    <Fold
      title="Condition"
      more={computed?.condition.join(', ') || 'not specified'}
      open={!!bench.errorIn(`${at}/condition`)}
    >
      <ConditionFields {bench} part={stage} at="{at}/condition" />
    </Fold>
  {/if}
  {#each shown as spec (spec.name)}<StageField {bench} {stage} {at} {spec} />{/each}
  {#if kind?.ordered}<OrderField {bench} {stage} error={bench.errorIn(`${at}/order`)} />{/if}
  {#if 'items' in stage && stage.items}<Items {bench} {stage} items={stage.items} {at} />{/if}
  {#if 'checks' in stage && stage.checks}<Checks {bench} {stage} checks={stage.checks} {at} />{/if}
  {#if stage.kind === 'tighten'}<PassTable {bench} {work} {stage} {index} />{/if}
  {#if noted.has('note')}<Typed {bench} part={stage} {at} name="note" label="Note" />{/if}
  <StageFrame {bench} {stage} {index} />
  <Fold
    title=""
    more={sentence('bench.brings', { parts: [...(stage.brings ?? [])].join(', ') || 'nothing' })}
  >
    <States {bench} {stage} {at} name="brings" label="After it holds, or is in" states />
  </Fold>
  <Fold
    title=""
    more="Undoes: {[...(stage.undoes ?? []), ...(stage.hands_over ?? [])].join(', ') || 'nothing'}"
  >
    <States {bench} {stage} {at} name="undoes" label="Temporary part" />
    <States {bench} {stage} {at} name="hands_over" label="Stays fitted" />
    <Checkbox
      checked={stage.only_again ?? false}
      onchange={(ev) => write(stage, 'only_again', ev.currentTarget.checked || '')}
      >Only when the stages around it are done again</Checkbox
    >
  </Fold>
  {#if rest.length}
    <Fold title="" more="More">
      {#each rest as spec (spec.name)}<StageField {bench} {stage} {at} {spec} />{/each}
    </Fold>
  {/if}
  <Fold
    title=""
    more={sentence('bench.cautions', { count: (stage.cautions ?? []).length || 'none' })}
  >
    <Boxes
      legend="Shown before the stage starts"
      choices={cautions}
      chosen={stage.cautions ?? []}
      error={bench.errorIn(`${at}/cautions`)}
      onchange={(now) => write(stage, 'cautions', now)}
    />
  </Fold>
</div>
