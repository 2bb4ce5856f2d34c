<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { listOf } from '#lib/plan.ts';
  import LayoutFields from './LayoutFields.svelte';
  import MoreFields from './MoreFields.svelte';
  import PartsList from './PartsList.svelte';
  import StackFields from './StackFields.svelte';
  import ThreadFields from './ThreadFields.svelte';
  import Typed from './Typed.svelte';
  import Ways from './Ways.svelte';

  /** One group of bolts: layout, positions, thread, head, what it goes into, what it clamps. */
  let { bench, index }: { bench: Bench; index: number } = $props();
  const many = $derived(bench.doc.groups.length > 1);
  const group = $derived(bench.doc.groups[index]!);
  const at = $derived(`groups/${index}`);

  const circle = $derived(
    group.layout.kind === 'circle' ? Number.parseFloat(String(group.layout.diameter)) : NaN,
  );
  /** Those with the bolt circle that was typed; all of them where none has it. */
  const flanges = $derived.by<[string, string][]>(() => {
    const all = catalogue.value?.flanges ?? [];
    const same = all.filter((one) => one.circle_mm === circle);
    return (same.length ? same : all).map((one) => [one.id, one.words]);
  });
  function positions(text: string) {
    const old = bench.doc.positions ?? [];
    bench.doc.positions = listOf(text).map((name, i) => ({ id: old[i]?.id ?? `p${i + 1}`, name }));
  }
</script>

{#if many}
  <div class="grid grid-cols-2 items-end gap-2">
    <Typed {bench} part={group} {at} name="name" label="Name of these bolts" />
    <Typed
      {bench}
      part={group.layout}
      at="{at}/layout"
      name="origin"
      label="Middle at"
      note="x, y"
      example="0 mm, 0 mm"
      as="list"
    />
  </div>
{/if}
<LayoutFields {bench} {group} {at} />
{#if bench.doc.joint_kind === 'gasketed_cover' && group.layout.kind === 'circle'}
  <QuantityField
    label="As a flange of a standard"
    note="to be compared with the one that is there"
    value=""
    choices={[['', 'fill in bolts, circle and gasket …'], ...flanges]}
    onchange={(flange) => flange && bench.act('take_flange', { group: group.id, flange })}
  />
{/if}
<ThreadFields {bench} {group} {at} />
<StackFields {bench} {group} {at} />
<MoreFields {bench} part={group} {at} about="group" title="more about these bolts" />
{#if index === 0}
  <QuantityField
    label="Positions"
    note="separated by commas; empty for one"
    value={(bench.doc.positions ?? []).map((p) => p.name).join(', ')}
    error={bench.errorIn('positions')}
    onchange={positions}
  />
  {#each catalogue.value?.plan_fields ?? [] as spec (spec.name)}
    <FormField {spec} part={bench.doc} error={bench.errorIn(spec.name)} />
  {/each}
  <Ways {bench} />
  <PartsList {bench} />
{/if}
<p class="flex gap-4 text-sm">
  <Word onclick={() => bench.act('add_group')}>Add bolt group</Word>
  <Word onclick={() => bench.act('vary_group', { group: group.id })}
    >Add variant of these bolts</Word
  >
  {#if many}<Word class="ml-auto" onclick={() => bench.act('drop_group', { group: group.id })}
      >Remove bolt group</Word
    >{/if}
</p>
