<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { fieldsOf, written, type Plan } from '#lib/plan.ts';
  import Word from '#lib/parts/Word.svelte';
  import MoreFields from './MoreFields.svelte';
  import Typed from './Typed.svelte';

  /**
   * A source that says a torque: the figure, in a second unit where it is written so, and whose
   * word it is.
   */
  let {
    bench,
    source,
    at,
  }: { bench: Bench; source: NonNullable<Plan['sources']>[number]; at: string } = $props();
  const says = $derived(source.says ?? {});
  const said = $derived((fieldsOf(says).torque as string[] | undefined) ?? []);
  const readings = $derived<[string, string][]>([
    ['', 'not decided'],
    ['first', said[0] ?? ''],
    ['second', said[1] ?? ''],
  ]);
  const by = $derived<[string, string][]>((catalogue.value?.source_kinds ?? []).map((x) => [x, x]));
  const forms = $derived<[string, string][]>(
    (catalogue.value?.source_forms ?? []).map((x) => [x.value, x.words]),
  );
  const form = $derived(forms.find(([name]) => name in says)?.[0] ?? 'bound');
</script>

<div class="grid grid-cols-2 items-end gap-2">
  <QuantityField
    label="Value"
    value={form}
    choices={forms}
    onchange={(now) => bench.act('source_says', { source: source.id, form: now }, true)}
  />
  <Typed {bench} part={source} {at} name="by" label="By" choices={by} />
  {#if form === 'torque'}
    <QuantityField
      label="Torque value"
      value={said[0] ?? ''}
      error={bench.error(`${at}/says/torque/0`)}
      onchange={(text) => (fieldsOf(says).torque = [text, ...said.slice(1)])}
    />
    <QuantityField
      label="… and in a second unit"
      value={said[1] ?? ''}
      example="if written"
      error={bench.error(`${at}/says/torque/1`)}
      onchange={(text) => (fieldsOf(says).torque = text.trim() ? [said[0], text] : [said[0]])}
    />
    <Typed
      {bench}
      part={says}
      at="{at}/says"
      name="angle"
      label="and an angle after it"
      example="none"
    />
  {:else if form === 'range'}
    {#each ['from', 'to'] as label, i (label)}
      <QuantityField
        {label}
        value={says.range?.[i] ?? ''}
        error={bench.error(`${at}/says/range/${i}`) || (i ? '' : bench.error(`${at}/says/range`))}
        onchange={(text) => (says.range![i] = text)}
      />
    {/each}
  {:else if form === 'preload'}
    <Typed {bench} part={says} at="{at}/says" name="preload" label="Clamp load of one bolt" />
  {:else if form === 'yield_fraction'}
    <QuantityField
      label="Share of yield"
      value={written(says.yield_fraction, 'share')}
      example="50 %"
      error={bench.error(`${at}/says/yield_fraction`)}
      onchange={(text) => (fieldsOf(says).yield_fraction = text)}
    />
  {/if}
  {#each says.places ?? [] as place, i (i)}
    {#each catalogue.value?.more_fields.placed ?? [] as spec (spec.name)}
      <FormField
        {spec}
        part={place}
        label="{spec.label}, {i + 1}"
        error={bench.errorIn(`${at}/says/places/${i}/${spec.name}`)}
      />
    {/each}
  {/each}
  {#if says.places}
    <p class="col-span-full flex gap-4 text-sm">
      <Word onclick={() => says.places!.push({ at: '', torque: '' })}>Add reading</Word>
      {#if says.places.length > 2}<Word onclick={() => says.places!.pop()}>Remove last</Word>{/if}
    </p>
  {/if}
  {#if said.length === 2}
    <Typed
      {bench}
      part={source}
      {at}
      name="holds"
      label="If they differ, it is"
      choices={readings}
    />
    {#if source.holds}<Typed
        {bench}
        part={source}
        {at}
        name="because"
        label="who says so"
        example="letter, call, measured"
      />{/if}
  {/if}
  <Typed {bench} part={source} {at} name="reference" label="Reference" />
</div>
<MoreFields {bench} part={source} {at} about="source" title="bounds, and what it is valid for" />
