<script lang="ts">
  import { sentence } from '#lib/sentence.ts';
  import Mark from '../Mark.svelte';
  import type { Schemas } from '../../api/client';
  import { kN } from '../../figures';
  import Word from '../Word.svelte';
  import LimitTable from './LimitTable.svelte';
  import { GaugeScale, WIDTH } from './scale.svelte';

  interface Props {
    /** Preload of one bolt at the setting, with its scatter. */
    preload: Schemas['PreloadOut'];
    /** Every limit of the clamp load. */
    limits: Schemas['LimitOut'][];
    /** Needed and allowed, and the verdict; without it only the limits are drawn. */
    window?: Schemas['WindowOut'] | null;
    /** The torque that gives the load, in words. */
    target?: string;
    /** Open the working of a limit or of the preload. */
    onopen?: (figure: string) => void;
    /** Go to the field that sets a limit. */
    onfield?: (limit: Schemas['LimitOut']) => void;
  }
  let { preload, limits, window: given = null, target = '', onopen, onfield }: Props = $props();
  const uid = $props.id();
  const W = WIDTH;
  const gauge = new GaugeScale(
    () => preload,
    () => limits,
    () => given,
  );
  const x = gauge.x;
  /** Upper edge and height of the bar. */
  const Y = 44;
  const H = 22;
</script>

<figure>
  <figcaption class="flex items-baseline justify-between gap-3">
    <h2>Clamp load of one bolt, kN</h2>
    {#if given}<span
        class="inline-flex items-center gap-1.5 text-sm font-semibold {gauge.window.verdict ===
        'impossible'
          ? 'text-stop'
          : gauge.window.verdict === 'tight'
            ? 'text-caution'
            : 'text-brine'}"
        >{#if gauge.window.verdict === 'impossible'}<Mark
            severity="stop"
          />{:else if gauge.window.verdict === 'tight'}<Mark
            severity="caution"
          />{/if}{gauge.words}</span
      >{/if}
  </figcaption>
  <svg viewBox="0 0 {W} 112" class="mt-1 block w-full" role="group" aria-label="Clamp load window">
    <defs>
      <pattern
        id="{uid}-low"
        width="6"
        height="6"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"><line x1="0" x2="0" y2="6" class="hatch" /></pattern
      >
      <pattern
        id="{uid}-high"
        width="6"
        height="6"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(-45)"><line x1="0" x2="0" y2="6" class="hatch stop" /></pattern
      >
    </defs>
    <rect x="0" y={Y} width={W} height={H} class="free" />
    {#if gauge.window.lower_N}<rect
        x="0"
        y={Y}
        width={x(gauge.window.lower_N)}
        height={H}
        class="paper"
      /><rect x="0" y={Y} width={x(gauge.window.lower_N)} height={H} fill="url(#{uid}-low)" />{/if}
    {#if gauge.window.upper_N}<rect
        x={x(gauge.window.upper_N)}
        y={Y}
        width={W - x(gauge.window.upper_N)}
        height={H}
        class="paper"
      /><rect
        x={x(gauge.window.upper_N)}
        y={Y}
        width={W - x(gauge.window.upper_N)}
        height={H}
        fill="url(#{uid}-high)"
      />{/if}
    <rect x="0.5" y={Y} width={W - 1} height={H} class="frame" />
    {#each [...gauge.above, ...gauge.below] as mark (mark.id)}
      {@const up = mark.side === 'upper'}
      <polyline
        points={up
          ? `${mark.x},${Y + H} ${mark.x},${Y - 6} ${mark.at},${Y - 24}`
          : `${mark.x},${Y} ${mark.x},${Y + H + 6} ${mark.at},${Y + H + 24}`}
        class="limit"
        class:governs={gauge.governs(mark)}
      />
      <g
        role="button"
        tabindex="0"
        aria-label={sentence('gauge.limit', {
          letter: mark.letter,
          load: kN(mark.clamp_N),
          name: mark.name,
          side: up ? 'upper' : 'lower',
        })}
        onclick={() => onopen?.(`limit/${mark.id}`)}
        onkeydown={(e) =>
          (e.key === 'Enter' || e.key === ' ') &&
          (e.preventDefault(), onopen?.(`limit/${mark.id}`))}
      >
        <rect x={mark.at - 28} y={up ? 0 : Y + H} width="56" height="46" class="hit" />
        <text x={mark.at} y={up ? 15 : Y + H + 38} class:governs={gauge.governs(mark)}
          ><tspan font-weight="700">{mark.letter}</tspan> {kN(mark.clamp_N)}</text
        >
      </g>
    {/each}
    <line x1={x(preload.low_N)} x2={x(preload.high_N)} y1={Y + 11} y2={Y + 11} class="worst" />
    <line x1={x(preload.low_N)} x2={x(preload.low_N)} y1={Y + 6} y2={Y + 16} class="worst" />
    <line x1={x(preload.high_N)} x2={x(preload.high_N)} y1={Y + 6} y2={Y + 16} class="worst" />
    <rect
      x={x(preload.low_rss_N)}
      y={Y + 6}
      width={x(preload.high_rss_N) - x(preload.low_rss_N)}
      height="10"
      class="likely"
    />
    <path d="M{x(preload.typical_N)} {Y + 2} l6 9 -6 9 -6 -9Z" class="typical" />
  </svg>
  <p class="text-sm">
    {#if preload.beyond_yield}
      <b class="text-stop">beyond yield: no load can be given there</b>
    {:else}
      <Word onclick={() => onopen?.('preload')}
        ><span class="text-lg font-extrabold">{kN(preload.typical_N)}</span>&nbsp;kN</Word
      >
      <span class="soft"
        >{sentence('gauge.band', {
          low: kN(preload.low_N),
          high: kN(preload.high_N),
          likely_low: kN(preload.low_rss_N),
          likely_high: kN(preload.high_rss_N),
        })}</span
      >
    {/if}
  </p>
  <LimitTable {gauge} typical={preload.typical_N} {target} {onopen} {onfield} />
</figure>

<style>
  .free {
    fill: var(--tint);
  }
  .paper {
    fill: var(--paper);
  }
  .frame {
    fill: none;
    stroke: var(--rule);
  }
  .hit {
    fill: transparent;
  }
  .hatch {
    stroke: var(--rule);
    stroke-width: 1.4;
  }
  .hatch.stop {
    stroke: var(--stop);
    opacity: 0.6;
  }
  .worst {
    stroke: var(--brine);
    stroke-width: 2;
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
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.2;
  }
  .limit.governs {
    stroke-width: 2.4;
  }
  text {
    font-size: 14px;
    text-anchor: middle;
    fill: var(--ink);
  }
  text.governs {
    font-weight: 700;
  }
  g {
    cursor: pointer;
  }
</style>
