<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { fieldsOf, type Plan } from '#lib/plan.ts';
  import MoreFields from './MoreFields.svelte';
  import Typed from './Typed.svelte';

  /** A source that says a torque: the figure, in a second unit where it is written so, and whose word it is. */
  let { bench, source, at }: { bench: Bench; source: NonNullable<Plan['sources']>[number]; at: string } = $props();
  const says = $derived(source.says ?? {});
  const said = $derived((fieldsOf(says).torque as string[] | undefined) ?? []);
  const readings = $derived<[string, string][]>([
    ['', 'not decided'],
    ['first', said[0] ?? ''],
    ['second', said[1] ?? ''],
  ]);
  const by = $derived<[string, string][]>((catalogue.value?.source_kinds ?? []).map((x) => [x, x]));
</script>

<div class="grid grid-cols-2 gap-2">
  {#if said.length}
    <QuantityField
      label="Torque it says"
      value={said[0]!}
      error={bench.error(`${at}/says/torque/0`)}
      onchange={(text) => (said[0] = text)}
    />
    <QuantityField
      label="… and in a second unit"
      value={said[1] ?? ''}
      example="if written"
      error={bench.error(`${at}/says/torque/1`)}
      onchange={(text) => (fieldsOf(says).torque = text.trim() ? [said[0], text] : [said[0]])}
    />
  {/if}
  {#if said.length}
    <Typed {bench} part={says} at="{at}/says" name="angle" label="and an angle after it" example="none" />
  {/if}
  {#if said.length === 2}
    <Typed {bench} part={source} {at} name="holds" label="If they differ, it is" choices={readings} />
    {#if source.holds}<Typed
        {bench}
        part={source}
        {at}
        name="because"
        label="who says so"
        example="letter, call, measured"
      />{/if}
  {/if}
  <Typed {bench} part={source} {at} name="by" label="By" choices={by} />
  <Typed {bench} part={source} {at} name="reference" label="Reference" />
</div>
<MoreFields {bench} part={source} {at} about="source" title="what else it says, what it is valid for" />
