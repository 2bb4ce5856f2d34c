<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';

  /** Torque readings of the last full pass per bolt, as deviation from the setting. */
  let { table, wanted }: { table: Schemas['GroupTable']; wanted: number } = $props();
  const full = $derived(table.columns.findIndex((c) => c.setting !== null && c.setting === table.columns.at(-1)?.setting));
  const bars = $derived(
    table.rows
      .map((row) => ({ label: row.label, value: parseFloat(row.cells[full]?.torque ?? '') }))
      .filter((b) => Number.isFinite(b.value)),
  );
  const W = 210;
  const H = 74;
  const span = $derived(Math.max(0.04, ...bars.map((b) => Math.abs(b.value / wanted - 1))) * 1.15);
  const y = $derived((value: number) => H / 2 - ((value / wanted - 1) / span) * (H / 2 - 4));
</script>

{#if bars.length}
  <figure class="mt-2">
    <svg viewBox="0 0 {W} {H + 14}" class="w-full max-w-[210px]" role="img" aria-label="Torque readings of {table.columns[full]?.title} around {wanted.toFixed(0)} N·m">
      <line x1="0" x2={W} y1={H / 2} y2={H / 2} stroke="var(--rule)" />
      {#each bars as bar, i (bar.label)}
        {@const x = ((i + 0.5) / bars.length) * W}
        <line x1={x} x2={x} y1={H / 2} y2={y(bar.value)} stroke="var(--load)" stroke-width="2" />
        <circle cx={x} cy={y(bar.value)} r="3" fill="var(--load)" />
        {#if bars.length <= 8 || i % 4 === 0}<text {x} y={H + 11} font-size="10" text-anchor="middle" fill="var(--soft)">{bar.label}</text>{/if}
      {/each}
      <text x="0" y="9" font-size="10" fill="var(--soft)">+{(span * 100).toFixed(0)} %</text>
    </svg>
    <figcaption class="soft text-xs">{table.columns[full]?.title}: readings around {wanted.toFixed(0)} N·m</figcaption>
  </figure>
{/if}
