<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { write, written } from '#lib/plan.ts';
  import ChainLinks from './ChainLinks.svelte';
  import MoreFields from './MoreFields.svelte';
  import Typed from './Typed.svelte';

  /** A wrench that the plan asks for, and what stands between it and the bolt. */
  let { bench, tool }: { bench: Bench; tool: string } = $props();
  const wrench = $derived(bench.doc.tools![tool]!);
  const at = $derived(`tools/${tool}`);
  const chains = $derived(
    Object.entries(bench.doc.chains ?? {}).filter(([, links]) => links[0] === tool),
  );
  const named = (list: string[] | undefined): [string, string][] => (list ?? []).map((x) => [x, x]);
</script>

<div class="grid grid-cols-2 items-end gap-2">
  <Typed {bench} part={wrench} {at} name="name" label="Wrench" example="name or number" />
  <Typed
    {bench}
    part={wrench}
    {at}
    name="kind"
    label="Kind"
    choices={named(catalogue.value?.tool_kinds)}
  />
</div>
<div class="grid grid-cols-3 items-end gap-2">
  {#each ['Scale from', 'to'] as label, i (label)}
    <QuantityField
      {label}
      value={String(wrench.range?.[i] ?? '')}
      error={bench.error(`${at}/range/${i}`) || (i ? '' : bench.error(`${at}/range`))}
      onchange={(text) => (wrench.range[i] = text)}
    />
  {/each}
  <QuantityField
    label="Accuracy ±"
    value={written(wrench.accuracy, 'share')}
    example="ISO 6789"
    error={bench.error(`${at}/accuracy`)}
    onchange={(text) => write(wrench, 'accuracy', text.trim())}
  />
  <Typed {bench} part={wrench} {at} name="increment" label="Increment" example="not given" />
  <Typed {bench} part={wrench} {at} name="mark" label="Main mark every" example="one scale" />
  <Typed {bench} part={wrench} {at} name="length" label="Drive to grip" example="not given" />
</div>
<Typed
  {bench}
  part={wrench}
  {at}
  name="drive"
  label="Drive"
  choices={[['', 'not given'], ...named(catalogue.value?.drives)]}
/>
<MoreFields {bench} part={wrench} {at} about="tool" />
{#each chains as [name, links] (name)}<ChainLinks {bench} {name} {links} />{/each}
<p class="flex gap-4 text-sm">
  <Word onclick={() => bench.act('add_tool')}>Add tool</Word>
  <Word class="ml-auto" onclick={() => bench.act('drop_tool', { tool })}>Remove tool</Word>
</p>
