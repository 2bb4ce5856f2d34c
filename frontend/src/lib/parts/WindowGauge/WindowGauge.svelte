<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { kN } from '../../figures';
  import { placeLabels } from './layout';

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
  const W = 400;
  const ROW = 15;
  const NONE = { lower_N: null, upper_N: null, verdict: 'unbounded', opens: null } as const;
  const bounds = $derived(given ?? NONE);
  /** Upper bounds far above everything else only squeeze the scale: they are named below instead. */
  const reach = $derived(
    1.7 * Math.max(preload.high_N, bounds.upper_N ?? 0, ...every.filter((l) => l.side === 'lower').map((l) => l.clamp_N)),
  );
  const limits = $derived(every.filter((l) => l.clamp_N <= reach));
  const far = $derived(every.filter((l) => l.clamp_N > reach));
  const top = $derived(Math.max(preload.high_N, ...limits.map((l) => l.clamp_N)) * 1.06);
  const x = $derived((newton: number) => (newton / top) * W);
  const above = $derived(
    placeLabels(
      limits.filter((l) => l.side === 'upper').map((l) => ({ ...l, x: x(l.clamp_N), text: `${l.name} ${kN(l.clamp_N)}` })),
      W,
      5.9,
    ),
  );
  const below = $derived(
    placeLabels(
      limits.filter((l) => l.side === 'lower').map((l) => ({ ...l, x: x(l.clamp_N), text: `${l.name} ${kN(l.clamp_N)}` })),
      W,
      5.9,
    ),
  );
  const rowsAbove = $derived(Math.max(1, ...above.map((l) => l.row + 1)));
  const rowsBelow = $derived(Math.max(1, ...below.map((l) => l.row + 1)));
  const y0 = $derived(rowsAbove * ROW + 6);
  const height = $derived(y0 + 22 + rowsBelow * ROW + 6);
  const words = $derived(
    { fine: 'fits', tight: 'tight', impossible: 'does not fit', unbounded: 'no bounds given' }[bounds.verdict],
  );
  let shown = $state('');

  function say(limit: Schemas['LimitOut']) {
    shown = `${limit.name}: ${kN(limit.clamp_N)} kN, ${limit.side === 'upper' ? `used to ${(limit.use * 100).toFixed(0)} %` : `covered ${limit.use.toFixed(limit.use < 10 ? 2 : 0)} times`}; set by ${limit.input.split('/').slice(2).join(' ').replaceAll('_', ' ')}`;
  }
</script>

<figure>
  <figcaption class="flex items-baseline justify-between">
    <h2>Clamp load of one bolt, kN</h2>
    {#if given}<span
        class="text-sm font-semibold {bounds.verdict === 'impossible'
          ? 'text-stop'
          : bounds.verdict === 'tight'
            ? 'text-caution'
            : 'text-brine'}">{words}</span
      >{/if}
  </figcaption>
  <svg viewBox="0 0 {W} {height}" class="mt-1 block w-full" role="group" aria-label="Clamp load window">
    <defs>
      <pattern id="{uid}-low" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"
        ><line x1="0" x2="0" y2="6" class="hatch" /></pattern
      >
      <pattern id="{uid}-high" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)"
        ><line x1="0" x2="0" y2="6" class="hatch stop" /></pattern
      >
    </defs>
    <rect x="0" y={y0} width={W} height="22" class="free" />
    {#if bounds.lower_N}<rect x="0" y={y0} width={x(bounds.lower_N)} height="22" fill="url(#{uid}-low)" />{/if}
    {#if bounds.upper_N}<rect
        x={x(bounds.upper_N)}
        y={y0}
        width={W - x(bounds.upper_N)}
        height="22"
        fill="url(#{uid}-high)"
      />{/if}
    <rect x={x(preload.low_N)} y={y0 + 8} width={x(preload.high_N) - x(preload.low_N)} height="6" class="worst" />
    <rect x={x(preload.low_rss_N)} y={y0 + 5.5} width={x(preload.high_rss_N) - x(preload.low_rss_N)} height="11" class="likely" />
    <path d="M{x(preload.typical_N)} {y0 + 2} l6 9 -6 9 -6 -9Z" class="typical" />
    {#each [...above, ...below] as mark (mark.code)}
      <line
        x1={mark.x}
        x2={mark.x}
        y1={mark.side === 'upper' ? y0 - 4 - mark.row * ROW : y0}
        y2={mark.side === 'upper' ? y0 + 22 : y0 + 26 + mark.row * ROW}
        class="limit {mark.side}"
      />
    {/each}
    {#each [...above, ...below] as mark (mark.code)}
      {@const up = mark.side === 'upper'}
      <g
        role="button"
        tabindex="0"
        aria-label="{mark.name} {kN(mark.clamp_N)} kN, {up ? 'upper' : 'lower'} bound"
        onfocus={() => say(mark)}
        onpointerenter={() => say(mark)}
        onclick={() => onopen?.(`limit/${mark.code}`)}
        onkeydown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), onopen?.(`limit/${mark.code}`))}
      >
        <text x={mark.left} y={up ? y0 - 7 - mark.row * ROW : y0 + 37 + mark.row * ROW}>{mark.text}</text>
      </g>
    {/each}
  </svg>
  <p class="mt-1 text-sm">
    {#if preload.beyond_yield}
      <b class="text-stop">beyond yield: no load can be given there</b>
    {:else}
      <button class="link" onclick={() => onopen?.('preload')}
        >{kN(preload.low_N)} – {kN(preload.typical_N)} – {kN(preload.high_N)} kN</button
      >
      <span class="soft">worst case; likely {kN(preload.low_rss_N)} to {kN(preload.high_rss_N)}</span>
    {/if}
  </p>
  {#if far.length}<p class="soft text-sm leading-tight">
      far above: {far.map((l) => `${l.name} ${kN(l.clamp_N)}`).join(', ')}
    </p>{/if}
  <p class="soft min-h-5 text-sm leading-tight">{shown || (bounds.opens ? `Opens with ${bounds.opens}.` : '')}</p>
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
    font-size: 11px;
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
