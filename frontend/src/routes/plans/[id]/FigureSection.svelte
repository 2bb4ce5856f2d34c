<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { write, written } from '#lib/plan.ts';
  import FrictionFields from './FrictionFields.svelte';
  import GroupPart from './GroupPart.svelte';
  import Manual from './Manual.svelte';
  import Meaning from './Meaning.svelte';
  import OtherLubricants from './OtherLubricants.svelte';
  import OwnDefinitions from './OwnDefinitions.svelte';
  import SourceTable from './SourceTable.svelte';
  import Sources from './Sources.svelte';
  import TargetFields from './TargetFields.svelte';
  import Typed from './Typed.svelte';
  import type { Work } from './work.svelte.ts';

  /** Find the figure: grade, friction, source or calculation, bounds. */
  let { bench, work, index }: { bench: Bench; work: Work; index: number } = $props();
  const group = $derived(bench.doc.groups[index]!);
  const at = $derived(`groups/${index}`);
  const found = $derived(bench.result?.groups.find((g) => g.id === group.id));
  /** Written at the first figure; without one there is nothing to bound. */
  const share = (text: string) => write((group.limits ??= {}), 'yield_fraction', text.trim());
</script>

<div class="grid grid-cols-2 items-end gap-2">
  <Typed
    {bench}
    part={group.fastener}
    at="{at}/fastener"
    name="grade"
    label="Grade"
    list={catalogue.value?.grades}
  />
  <FrictionFields {bench} {group} {at} />
</div>
<SourceTable {bench} group={group.id} sources={found?.sources ?? []} />
<Manual {bench} group={group.id} />
<Sources {bench} group={group.id} />
<TargetFields {bench} group={group.id} torque={found?.target?.torque_Nm} />
<div class="grid grid-cols-2 items-end gap-2">
  <Typed
    {bench}
    part={group}
    {at}
    name="required_clamp"
    label="Joint need, per bolt"
    example="not given"
  />
  <QuantityField
    label="Limit, % of yield"
    value={written(group.limits?.yield_fraction, 'share')}
    example="no bound"
    error={bench.error(`${at}/limits/yield_fraction`)}
    onchange={share}
  />
</div>
{#each catalogue.value?.group_parts ?? [] as part (part.name)}<GroupPart
    {bench}
    {group}
    {at}
    {part}
  />{/each}
<OwnDefinitions {bench} group={group.id} />
<OtherLubricants {bench} group={group.id} />
{#if found?.preload}<Meaning {work} group={found} />{/if}
