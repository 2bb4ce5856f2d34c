<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { asNumber } from '#lib/figures.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';

  import { addGroup, dropGroup } from './groups';

  interface Props {
    bench: Bench;
    /** Which group of bolts. */
    group: number;
    threads: string[];
    materials: string[];
    /** Called with the number of the group that should be open after one was added or taken out. */
    onmoved: (group: number) => void;
  }
  /** One group of bolts: layout, positions, thread, head, what it goes into, what it clamps. */
  let { bench, group, threads, materials, onmoved }: Props = $props();
  const many = $derived(bench.doc.groups.length > 1);
  const g = $derived(bench.doc.groups[group]);
  const at = $derived(`groups/${group}`);
  const e = $derived((path: string) => bench.errors[`${at}/${path}`] ?? '');
  const cone = $derived(g.fastener.face?.kind === 'cone');
  const kinds: [string, string][] = [
    ['circle', 'circle'],
    ['row', 'row'],
    ['grid', 'grid'],
    ['points', 'free points'],
  ];

  function layout(kind: string) {
    const origin = g.layout.origin;
    const made: Record<string, object> = {
      circle: { kind, count: 8, diameter: '300 mm' },
      row: { kind, count: 4, pitch: '120 mm' },
      grid: { kind, rows: 2, columns: 2, row_pitch: '150 mm', column_pitch: '200 mm' },
      points: { kind, points: [['0 mm', '0 mm']] },
    };
    g.layout = { ...made[kind], ...(origin ? { origin } : {}) };
  }
  function points(text: string) {
    g.layout.points = text
      .split(/[;\n]/)
      .map((row) => row.split(/,\s*|\s\/\s/).map((x) => x.trim()))
      .filter((row) => row.some(Boolean));
  }
  function face(kind: string) {
    if (kind === 'table') delete g.fastener.face;
    else if (kind === 'cone') g.fastener.face = { kind: 'cone', half_angle: '30 deg' };
    else g.fastener.face = { kind: 'flat', face_diameter: '33.6 mm', hole: '26 mm' };
  }
  function positions(text: string) {
    const names = text
      .split(',')
      .map((n) => n.trim())
      .filter(Boolean);
    const old = bench.doc.positions ?? [];
    bench.doc.positions = names.map((name, i) => ({ id: old[i]?.id ?? `p${i + 1}`, name }));
  }
  function into(kind: string) {
    if (kind === '') delete g.into;
    else g.into = { ...(g.into ?? {}), kind };
  }
  function middle(text: string) {
    const both = text.split(',').map((t) => t.trim());
    if (both.every((t) => !t)) delete g.layout.origin;
    else g.layout.origin = both;
  }
  function add() {
    addGroup(bench.doc);
    onmoved(bench.doc.groups.length - 1);
  }
  function drop() {
    dropGroup(bench.doc, g.id);
    onmoved(0);
  }
  function optional(holder: Record<string, unknown>, field: string, text: string) {
    if (text.trim()) holder[field] = text;
    else delete holder[field];
  }
</script>

{#if many}
  <div class="grid grid-cols-2 gap-2">
    <QuantityField label="Name of these bolts" value={g.name} error={e('name')} onchange={(t) => (g.name = t)} />
    <QuantityField
      label="Middle at"
      note="x, y"
      value={(g.layout.origin ?? []).join(', ')}
      example="0 mm, 0 mm"
      error={e('layout/origin') || e('layout/origin/0') || e('layout/origin/1')}
      onchange={middle}
    />
  </div>
{/if}
<div class="grid grid-cols-3 gap-2">
  <QuantityField label="Bolts stand" value={g.layout.kind} choices={kinds} error={e('layout')} onchange={layout} />
  {#if g.layout.kind === 'circle'}
    <QuantityField
      label="Bolts"
      value={String(g.layout.count)}
      error={e('layout/count')}
      onchange={(t) => (g.layout.count = asNumber(t))}
    />
    <QuantityField
      label="Bolt circle"
      value={g.layout.diameter}
      error={e('layout/diameter')}
      onchange={(t) => (g.layout.diameter = t)}
    />
    <QuantityField
      label="First bolt at"
      value={g.layout.first_at ?? '0 deg'}
      error={e('layout/first_at')}
      onchange={(t) => (g.layout.first_at = t)}
    />
    <QuantityField
      label="Numbered"
      value={g.layout.sense ?? 'cw'}
      choices={[
        ['cw', 'clockwise'],
        ['ccw', 'anticlockwise'],
      ]}
      onchange={(t) => (g.layout.sense = t)}
    />
  {:else if g.layout.kind === 'row'}
    <QuantityField
      label="Bolts"
      value={String(g.layout.count)}
      error={e('layout/count')}
      onchange={(t) => (g.layout.count = asNumber(t))}
    />
    <QuantityField label="Apart" value={g.layout.pitch} error={e('layout/pitch')} onchange={(t) => (g.layout.pitch = t)} />
  {:else if g.layout.kind === 'grid'}
    <QuantityField
      label="Rows"
      value={String(g.layout.rows)}
      error={e('layout/rows')}
      onchange={(t) => (g.layout.rows = asNumber(t))}
    />
    <QuantityField
      label="Columns"
      value={String(g.layout.columns)}
      error={e('layout/columns')}
      onchange={(t) => (g.layout.columns = asNumber(t))}
    />
    <QuantityField
      label="Rows apart"
      value={g.layout.row_pitch}
      error={e('layout/row_pitch')}
      onchange={(t) => (g.layout.row_pitch = t)}
    />
    <QuantityField
      label="Columns apart"
      value={g.layout.column_pitch}
      error={e('layout/column_pitch')}
      onchange={(t) => (g.layout.column_pitch = t)}
    />
  {/if}
  <QuantityField
    label="Painted numbers"
    value={g.layout.labels ?? 'place'}
    choices={[
      ['place', 'by place'],
      ['order', 'by order'],
    ]}
    onchange={(t) => (g.layout.labels = t)}
  />
</div>
{#if g.layout.kind === 'points'}
  <QuantityField
    label="Centres"
    note="x, y; x, y"
    value={g.layout.points.map((p: string[]) => p.join(', ')).join('; ')}
    error={e('layout/points') || e('layout/points/0') || e('layout/points/0/0')}
    onchange={points}
  />
{/if}
<div class="grid grid-cols-3 gap-2">
  <QuantityField
    label="Thread"
    value={g.fastener.thread}
    list={threads}
    error={e('fastener/thread')}
    onchange={(t) => (g.fastener.thread = t)}
  />
  <QuantityField
    label="Head"
    value={g.fastener.head ?? 'hex'}
    choices={[
      ['hex', 'hexagon'],
      ['heavy hex', 'heavy hexagon'],
      ['socket head', 'socket head'],
      ['other', 'other'],
    ]}
    onchange={(t) => (g.fastener.head = t)}
  />
  <QuantityField
    label="Seat"
    value={g.fastener.face?.kind ?? 'table'}
    choices={[
      ['table', 'by size'],
      ['flat', 'own face'],
      ['cone', 'cone'],
    ]}
    error={e('fastener/face')}
    onchange={face}
  />
</div>
{#if g.fastener.face}
  <div class="grid grid-cols-3 gap-2">
    {#if cone}
      <QuantityField
        label="Half-angle"
        value={g.fastener.face.half_angle}
        error={e('fastener/face/half_angle')}
        onchange={(t) => (g.fastener.face.half_angle = t)}
      />
      <QuantityField
        label="Effective Ø"
        value={g.fastener.face.effective_diameter ?? ''}
        example="by size"
        error={e('fastener/face/effective_diameter')}
        onchange={(t) => optional(g.fastener.face, 'effective_diameter', t)}
      />
    {:else}
      <QuantityField
        label="Face Ø"
        value={g.fastener.face.face_diameter}
        error={e('fastener/face/face_diameter')}
        onchange={(t) => (g.fastener.face.face_diameter = t)}
      />
      <QuantityField
        label="Hole Ø"
        value={g.fastener.face.hole}
        error={e('fastener/face/hole')}
        onchange={(t) => (g.fastener.face.hole = t)}
      />
    {/if}
  </div>
{/if}
<div class="grid grid-cols-3 gap-2">
  <QuantityField
    label="Goes into"
    value={g.into?.kind ?? ''}
    choices={[
      ['', 'not said'],
      ['nut', 'a nut'],
      ['tapped', 'a tapped part'],
    ]}
    onchange={into}
  />
  {#if g.into}
    <QuantityField
      label="Engaged"
      value={g.into.engaged ?? ''}
      example="not said"
      error={e('into/engaged')}
      onchange={(t) => optional(g.into, 'engaged', t)}
    />
    {#if g.into.kind === 'tapped'}
      <QuantityField
        label="Material"
        value={g.into.material ?? ''}
        list={materials}
        error={e('into/material')}
        onchange={(t) => optional(g.into, 'material', t)}
      />
      <QuantityField
        label="Thread in the hole"
        value={g.into.depth ?? ''}
        example="through"
        error={e('into/depth')}
        onchange={(t) => optional(g.into, 'depth', t)}
      />
      <QuantityField
        label="Bolt comes in"
        value={g.into.reach ?? ''}
        example="as engaged"
        error={e('into/reach')}
        onchange={(t) => optional(g.into, 'reach', t)}
      />
    {/if}
  {/if}
</div>
<fieldset class="grid gap-2">
  <legend class="text-sm text-soft">Clamped parts, from the turned side on</legend>
  {#each g.stack ?? [] as layer, i (i)}
    <div class="grid grid-cols-[1fr_90px_90px_auto] items-end gap-2">
      <QuantityField
        label="Part {i + 1}"
        value={layer.material}
        list={materials}
        error={e(`stack/${i}/material`)}
        onchange={(t) => (layer.material = t)}
      />
      <QuantityField
        label="thick"
        value={layer.thickness}
        error={e(`stack/${i}/thickness`)}
        onchange={(t) => (layer.thickness = t)}
      />
      <QuantityField
        label="outside Ø"
        value={layer.outside ?? ''}
        example="3 × face"
        error={e(`stack/${i}/outside`)}
        onchange={(t) => optional(layer, 'outside', t)}
      />
      <button class="link pb-2 text-sm" aria-label="Take out part {i + 1}" onclick={() => g.stack.splice(i, 1)}>out</button>
    </div>
  {/each}
  <button
    class="link text-left text-sm"
    onclick={() => (g.stack = [...(g.stack ?? []), { material: 'carbon steel', thickness: '20 mm' }])}>+ part</button
  >
</fieldset>
{#if group === 0}
  <QuantityField
    label="Positions"
    note="separated by commas; empty for one"
    value={(bench.doc.positions ?? []).map((p: { name: string }) => p.name).join(', ')}
    error={bench.errors['positions'] ?? ''}
    onchange={positions}
  />
{/if}
<p class="flex gap-4 text-sm">
  <button class="link" onclick={add}>+ other bolts</button>
  {#if many}<button class="link ml-auto" onclick={drop}>take these bolts out</button>{/if}
</p>
