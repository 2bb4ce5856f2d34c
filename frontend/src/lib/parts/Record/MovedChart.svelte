<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { sentence } from '#lib/sentence.ts';

  /** Bolts that moved in the check rounds, of those that were checked. */
  let { chart }: { chart: Schemas['Chart'] } = $props();
  const W = 210;
</script>

<svg
  viewBox="0 0 {W} {chart.bars.length * 20}"
  class="w-full max-w-[210px]"
  role="img"
  aria-label={sentence('record.moved_chart', {
    bolts: chart.bars.map((m) => `${m.label} ${m.value} of ${m.total}`).join('; '),
  })}
>
  {#each chart.bars as m, i (i)}
    <rect x="0" y={i * 20 + 3} width={W - 62} height="13" fill="var(--tint)" />
    <rect
      x="0"
      y={i * 20 + 3}
      width={((W - 62) * m.value) / (m.total || 1)}
      height="13"
      fill="var(--caution)"
    />
    <text x={W - 56} y={i * 20 + 14} font-size="11" fill="var(--ink)">{m.value} of {m.total}</text>
  {/each}
</svg>
