<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { sentence } from '#lib/sentence.ts';

  /** Readings of torque around what was wanted. */
  let { chart }: { chart: Schemas['Chart'] } = $props();
  const W = 210;
  const H = 74;
  const wanted = $derived(chart.wanted!);
  const span = $derived(
    Math.max(0.04, ...chart.bars.map((b) => Math.abs(b.value / wanted - 1))) * 1.15,
  );
  const y = (value: number) => H / 2 - ((value / wanted - 1) / span) * (H / 2 - 4);
</script>

<svg
  viewBox="0 0 {W} {H + 14}"
  class="w-full max-w-[210px]"
  role="img"
  aria-label={sentence('record.readings_chart', { title: chart.title, wanted: wanted.toFixed(0) })}
>
  <line x1="0" x2={W} y1={H / 2} y2={H / 2} stroke="var(--rule)" />
  {#each chart.bars as bar, i (bar.label)}
    {@const x = ((i + 0.5) / chart.bars.length) * W}
    <line x1={x} x2={x} y1={H / 2} y2={y(bar.value)} stroke="var(--load)" stroke-width="2" />
    <circle cx={x} cy={y(bar.value)} r="3" fill="var(--load)" />
    {#if chart.bars.length <= 8 || i % 4 === 0}<text
        {x}
        y={H + 11}
        font-size="10"
        text-anchor="middle"
        fill="var(--soft)">{bar.label}</text
      >{/if}
  {/each}
  <text x="0" y="9" font-size="10" fill="var(--soft)">+{(span * 100).toFixed(0)} %</text>
</svg>
