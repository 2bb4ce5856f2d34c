<script lang="ts">
  import { asNumber, type Bench } from '#lib/bench.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';

  /** The joint itself: layout, positions, thread, head. */
  let { bench, group, threads }: { bench: Bench; group: number; threads: string[] } = $props();
  const g = $derived(bench.doc.groups[group]);
  const at = $derived(`groups/${group}`);
  const e = $derived((path: string) => bench.errors[`${at}/${path}`] ?? '');
  const cone = $derived(g.fastener.face?.kind === 'cone');

  function face(kind: string) {
    if (kind === 'table') delete g.fastener.face;
    else if (kind === 'cone') g.fastener.face = { kind: 'cone', half_angle: '30 deg' };
    else g.fastener.face = { kind: 'flat', face_diameter: '33.6 mm', hole: '26 mm' };
  }
  function positions(text: string) {
    const names = text.split(',').map((n) => n.trim()).filter(Boolean);
    const old = bench.doc.positions ?? [];
    bench.doc.positions = names.map((name, i) => ({ id: old[i]?.id ?? `p${i + 1}`, name }));
  }
</script>

<div class="grid grid-cols-3 gap-2">
  <QuantityField label="Bolts" value={String(g.layout.count)} error={e('layout/count')} onchange={(t) => (g.layout.count = asNumber(t))} />
  <QuantityField label="Bolt circle" value={g.layout.diameter} error={e('layout/diameter') || e('layout')} onchange={(t) => (g.layout.diameter = t)} />
  <QuantityField label="First bolt at" value={g.layout.first_at ?? '0 deg'} error={e('layout/first_at')} onchange={(t) => (g.layout.first_at = t)} />
</div>
<div class="grid grid-cols-3 gap-2">
  <QuantityField label="Numbered" value={g.layout.sense ?? 'cw'} choices={[['cw', 'clockwise'], ['ccw', 'anticlockwise']]} onchange={(t) => (g.layout.sense = t)} />
  <QuantityField label="Thread" value={g.fastener.thread} list={threads} error={e('fastener/thread')} onchange={(t) => (g.fastener.thread = t)} />
  <QuantityField label="Seat" value={g.fastener.face?.kind ?? 'table'} choices={[['table', 'hexagon, by size'], ['flat', 'own face'], ['cone', 'cone']]} error={e('fastener/face')} onchange={face} />
</div>
{#if g.fastener.face}
  <div class="grid grid-cols-3 gap-2">
    {#if cone}
      <QuantityField label="Half-angle" value={g.fastener.face.half_angle} error={e('fastener/face/half_angle')} onchange={(t) => (g.fastener.face.half_angle = t)} />
      <QuantityField label="Effective Ø" value={g.fastener.face.effective_diameter ?? ''} example="by size" error={e('fastener/face/effective_diameter')} onchange={(t) => (t.trim() ? (g.fastener.face.effective_diameter = t) : delete g.fastener.face.effective_diameter)} />
    {:else}
      <QuantityField label="Face Ø" value={g.fastener.face.face_diameter} error={e('fastener/face/face_diameter')} onchange={(t) => (g.fastener.face.face_diameter = t)} />
      <QuantityField label="Hole Ø" value={g.fastener.face.hole} error={e('fastener/face/hole')} onchange={(t) => (g.fastener.face.hole = t)} />
    {/if}
  </div>
{/if}
<QuantityField label="Positions" note="separated by commas; empty for one" value={(bench.doc.positions ?? []).map((p: { name: string }) => p.name).join(', ')} error={bench.errors['positions'] ?? ''} onchange={positions} />
