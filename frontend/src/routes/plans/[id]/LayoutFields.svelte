<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { fieldsOf, type Group } from '#lib/plan.ts';
  import Typed from './Typed.svelte';

  /** How the bolts of a group stand: the kind of layout, and what that kind asks for. */
  let { bench, group, at }: { bench: Bench; group: Group; at: string } = $props();
  const layout = $derived(group.layout);
  const here = $derived(`${at}/layout`);
  const KINDS: [string, string][] = [
    ['circle', 'circle'],
    ['row', 'row'],
    ['grid', 'grid'],
    ['points', 'free points'],
  ];
  /** What each kind asks for: [name, label, how it is written]. */
  const ASKED: Record<string, [string, string, 'text' | 'number'][]> = {
    circle: [
      ['count', 'Bolts', 'number'],
      ['diameter', 'Bolt circle', 'text'],
      ['first_at', 'First bolt at', 'text'],
    ],
    row: [
      ['count', 'Bolts', 'number'],
      ['pitch', 'Apart', 'text'],
    ],
    grid: [
      ['rows', 'Rows', 'number'],
      ['columns', 'Columns', 'number'],
      ['row_pitch', 'Rows apart', 'text'],
      ['column_pitch', 'Columns apart', 'text'],
    ],
    points: [],
  };
  const pointsText = $derived(
    layout.kind === 'points' && Array.isArray(layout.points)
      ? layout.points.map((p) => [p].flat().join(', ')).join('; ')
      : '',
  );
  function points(text: string) {
    fieldsOf(layout).points = text
      .split(/[;\n]/)
      .map((row) => row.split(/,\s*|\s\/\s/).map((x) => x.trim()))
      .filter((row) => row.some(Boolean));
  }
</script>

<div class="grid grid-cols-3 items-end gap-2">
  <QuantityField
    label="Bolt pattern"
    value={layout.kind}
    choices={KINDS}
    error={bench.error(here)}
    onchange={(kind) => bench.act('set_layout', { group: group.id, kind })}
  />
  {#each ASKED[layout.kind] ?? [] as [name, label, as] (name)}
    <Typed
      {bench}
      part={layout}
      at={here}
      {name}
      {label}
      {as}
      example={name === 'first_at' ? '0 deg' : ''}
    />
  {/each}
  {#if layout.kind === 'row'}
    <Typed {bench} part={layout} at={here} name="direction" label="Row runs" example="90 deg" />
  {/if}
  {#if layout.kind === 'grid'}
    <FormField
      spec={{ name: 'perimeter', label: 'Perimeter only', kind: 'tick' }}
      part={layout}
      error={bench.error(`${here}/perimeter`)}
    />
  {/if}
  {#if layout.kind === 'circle'}
    <Typed
      {bench}
      part={layout}
      at={here}
      name="sense"
      label="Numbered"
      choices={[
        ['cw', 'clockwise'],
        ['ccw', 'anticlockwise'],
      ]}
    />
  {/if}
  <Typed
    {bench}
    part={layout}
    at={here}
    name="labels"
    label="Painted numbers"
    choices={[
      ['place', 'by place'],
      ['order', 'by order'],
    ]}
  />
</div>
{#if layout.kind === 'points'}
  <QuantityField
    label="Centres"
    note="x, y; x, y"
    value={pointsText}
    error={bench.errorIn(`${here}/points`)}
    onchange={points}
  />
{/if}
