<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';

  /** Readings of one check between their limits; hollow what they are compared with. */
  let { chart }: { chart: Schemas['Chart'] } = $props();
  const W = 320;
  const H = 84;
  const LEFT = 46;
  const values = $derived([
    ...chart.bars.map((bar) => bar.value),
    ...[chart.least, chart.most].filter((end): end is number => typeof end === 'number'),
  ]);
  const low = $derived(Math.min(...values));
  const high = $derived(Math.max(...values));
  const span = $derived(high - low || Math.abs(high) || 1);
  const y = (value: number) => H - 8 - ((value - low) / span) * (H - 18);
  const x = (i: number) => LEFT + ((i + 0.5) / chart.bars.length) * (W - LEFT);
  const said = $derived(
    chart.bars
      .map((bar) => `${bar.before ? 'before ' : ''}${bar.label} ${bar.value}`.trim())
      .join('; '),
  );
</script>

<svg
  viewBox="0 0 {W} {H + 14}"
  class="w-full max-w-[360px]"
  role="img"
  aria-label="{chart.title}, {chart.unit}: {said}"
>
  {#each [chart.least, chart.most] as end (end)}
    {#if typeof end === 'number'}
      <line x1={LEFT} x2={W} y1={y(end)} y2={y(end)} stroke="var(--ink)" stroke-dasharray="5 4" />
      <text x={LEFT - 4} y={y(end) + 4} font-size="11" text-anchor="end" fill="var(--ink)"
        >{end}</text
      >
    {/if}
  {/each}
  {#each chart.bars as bar, i (i)}
    <circle
      cx={x(i)}
      cy={y(bar.value)}
      r="4"
      fill={bar.before ? 'var(--sheet)' : 'var(--load)'}
      stroke="var(--load)"
      stroke-width="1.5"
    />
    {#if chart.bars.length <= 12 || i % 4 === 0}<text
        x={x(i)}
        y={H + 11}
        font-size="11"
        text-anchor="middle"
        fill="var(--soft)">{bar.label}</text
      >{/if}
  {/each}
</svg>
