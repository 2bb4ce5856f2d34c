<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { sentence } from '#lib/sentence.ts';

  /** Smallest and largest gap of each round. */
  let { chart }: { chart: Schemas['Chart'] } = $props();
  const W = 210;
  const H = 74;
  const most = $derived(Math.max(1, ...chart.bars.map((b) => b.value)));
  const y = (mm: number) => H - (mm / most) * (H - 6);
</script>

<svg
  viewBox="0 0 {W} {H + 12}"
  class="w-full max-w-[210px]"
  role="img"
  aria-label={sentence('record.gaps_chart', {
    gaps: chart.bars.map((g) => `${g.low} to ${g.value} mm`).join('; '),
  })}
>
  {#each chart.bars as g, i (i)}
    {@const x = ((i + 0.5) / chart.bars.length) * W}
    <rect
      x={x - 5}
      y={y(g.value) - 1.5}
      width="10"
      height={y(g.low ?? 0) - y(g.value) + 3}
      fill="var(--load)"
    />
    <text {x} y={H + 11} font-size="10" text-anchor="middle" fill="var(--soft)">{g.label}</text>
  {/each}
  <line x1="0" x2={W} y1={H} y2={H} stroke="var(--rule)" />
  <text x="0" y="9" font-size="10" fill="var(--soft)">{most.toFixed(1)} mm</text>
</svg>
