<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { kN } from '../../figures';
  import Word from '../Word.svelte';
  import { boundWords, GaugeScale, ROW, WIDTH } from './scale.svelte';

  interface Props {
    /** Preload of one bolt at the setting, with its scatter. */
    preload: Schemas['PreloadOut'];
    /** Every bound of the clamp load. */
    limits: Schemas['LimitOut'][];
    /** Needed and allowed, and the verdict; without it only the bounds are drawn. */
    window?: Schemas['WindowOut'] | null;
    /** Open the working of a limit or of the preload. */
    onopen?: (figure: string) => void;
  }
  let { preload, limits: every, window: given = null, onopen }: Props = $props();
  const uid = $props.id();
  const W = WIDTH;
  const gauge = new GaugeScale(
    () => preload,
    () => every,
    () => given,
  );
  const x = gauge.x;
  const y0 = $derived(gauge.y0);
  let shown = $state('');
</script>

<figure>
  <figcaption class="flex items-baseline justify-between">
    <h2>Clamp load of one bolt, kN</h2>
    {#if given}<span
        class="text-sm font-semibold {gauge.bounds.verdict === 'impossible'
          ? 'text-stop'
          : gauge.bounds.verdict === 'tight'
            ? 'text-caution'
            : 'text-brine'}">{gauge.words}</span
      >{/if}
  </figcaption>
  <svg viewBox="0 0 {W} {gauge.height}" class="mt-1 block w-full" role="group" aria-label="Clamp load window">
    <defs>
      <pattern id="{uid}-low" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"
        ><line x1="0" x2="0" y2="6" class="hatch" /></pattern
      >
      <pattern id="{uid}-high" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)"
        ><line x1="0" x2="0" y2="6" class="hatch stop" /></pattern
      >
    </defs>
    <rect x="0" y={y0} width={W} height="22" class="free" />
    {#if gauge.bounds.lower_N}<rect x="0" y={y0} width={x(gauge.bounds.lower_N)} height="22" fill="url(#{uid}-low)" />{/if}
    {#if gauge.bounds.upper_N}<rect
        x={x(gauge.bounds.upper_N)}
        y={y0}
        width={W - x(gauge.bounds.upper_N)}
        height="22"
        fill="url(#{uid}-high)"
      />{/if}
    <rect x={x(preload.low_N)} y={y0 + 8} width={x(preload.high_N) - x(preload.low_N)} height="6" class="worst" />
    <rect x={x(preload.low_rss_N)} y={y0 + 5.5} width={x(preload.high_rss_N) - x(preload.low_rss_N)} height="11" class="likely" />
    <path d="M{x(preload.typical_N)} {y0 + 2} l6 9 -6 9 -6 -9Z" class="typical" />
    {#each [...gauge.above, ...gauge.below] as mark (mark.id)}
      <line
        x1={mark.x}
        x2={mark.x}
        y1={mark.side === 'upper' ? y0 - 4 - mark.row * ROW : y0}
        y2={mark.side === 'upper' ? y0 + 22 : y0 + 27 + mark.row * ROW}
        class="limit {mark.side}"
      />
    {/each}
    {#each [...gauge.above, ...gauge.below] as mark (mark.id)}
      {@const up = mark.side === 'upper'}
      <g
        role="button"
        tabindex="0"
        aria-label="{mark.name} {kN(mark.clamp_N)} kN, {up ? 'upper' : 'lower'} bound"
        onfocus={() => (shown = boundWords(mark))}
        onpointerenter={() => (shown = boundWords(mark))}
        onclick={() => onopen?.(`limit/${mark.id}`)}
        onkeydown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), onopen?.(`limit/${mark.id}`))}
      >
        <text x={mark.left} y={up ? y0 - 7 - mark.row * ROW : y0 + 39 + mark.row * ROW}>{mark.text}</text>
      </g>
    {/each}
  </svg>
  <p class="mt-1 text-sm">
    {#if preload.beyond_yield}
      <b class="text-stop">beyond yield: no load can be given there</b>
    {:else}
      <Word onclick={() => onopen?.('preload')}>{kN(preload.low_N)} – {kN(preload.typical_N)} – {kN(preload.high_N)} kN</Word>
      <span class="soft">worst case; likely {kN(preload.low_rss_N)} to {kN(preload.high_rss_N)}</span>
    {/if}
  </p>
  {#if gauge.others.length}
    <p class="flex flex-wrap items-baseline gap-x-3 text-sm leading-tight">
      <span class="soft">also:</span>
      {#each gauge.others as one (one.id)}<Word class="font-normal" onclick={() => onopen?.(`limit/${one.id}`)}
          >{one.side === 'upper' ? 'below' : 'above'} {one.name} {kN(one.clamp_N)}</Word
        >{/each}
    </p>
  {/if}
  <p class="soft min-h-5 text-sm leading-tight">{shown || (gauge.bounds.opens ? `Opens with ${gauge.bounds.opens}.` : '')}</p>
</figure>

<style>
  .free {
    fill: var(--tint);
  }
  .hatch {
    stroke: var(--rule);
    stroke-width: 2;
  }
  .hatch.stop {
    stroke: var(--stop);
  }
  .worst {
    fill: var(--brine);
    opacity: 0.75;
  }
  .likely {
    fill: var(--brine);
  }
  .typical {
    fill: var(--sheet);
    stroke: var(--brine);
    stroke-width: 2;
  }
  .limit {
    stroke: var(--ink);
    stroke-width: 1.4;
  }
  .limit.lower {
    stroke-dasharray: 3 2;
  }
  text {
    font-size: 13px;
    fill: var(--ink);
    paint-order: stroke;
    stroke: var(--paper);
    stroke-width: 4px;
    stroke-linejoin: round;
  }
  g {
    cursor: pointer;
  }
</style>
