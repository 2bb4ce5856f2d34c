<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { day, digits, percent } from '#lib/figures.ts';
  import { sentence } from '#lib/sentence.ts';

  /**
   * What a wrench delivers over its range, in percent of the setting: its last check, and the good
   * one before it.
   */
  interface Props {
    /** The newest first; with figures. */
    checks: Schemas['CheckView'][];
    low: number;
    high: number;
    /** Settings used since the last good check [N·m]. */
    used: number[];
  }
  let { checks, low, high, used }: Props = $props();
  const W = 440;
  const H = 190;
  const LEFT = 52;
  const TOP = 10;
  const last = $derived(checks[0]!);
  const before = $derived(checks.slice(1).find((one) => one.verdict === 'pass'));
  const shown = $derived(before ? [before, last] : [last]);
  const allowed = $derived(last.points.flatMap((point) => point.allowed));
  const [least, most] = $derived([Math.min(...allowed), Math.max(...allowed)]);
  const values = $derived([
    least,
    most,
    1,
    ...shown.flatMap((one) => one.points.flatMap((point) => point.delivered)),
  ]);
  const [bottom, top] = $derived([Math.min(...values) - 0.015, Math.max(...values) + 0.015]);
  const x = (torque: number) => LEFT + ((torque - low) / (high - low || 1)) * (W - LEFT - 12);
  const y = (share: number) => TOP + ((top - share) / (top - bottom)) * (H - TOP);
  const mean = (point: Schemas['PointShown']) => 1 + point.difference;
  const line = (check: Schemas['CheckView']) =>
    check.points
      .map((point, i) => `${i ? 'L' : 'M'}${x(point.setting_Nm)} ${y(mean(point))}`)
      .join('');
  const said = $derived(
    shown
      .map(
        (one) =>
          `${day(one.at)}: ${one.points.map((p) => `${p.setting} ${percent(mean(p), 1)}`).join(', ')}`,
      )
      .join('; '),
  );
  /** Torques beyond the range came through a multiplier. */
  const inRange = $derived(used.filter((torque) => torque <= high * 1.001));
  const id = $props.id();
  /** Room for the day of a check: above its line where the other one is below. */
  const below = (check: Schemas['CheckView']) =>
    check !== last || !before || mean(last.points[0]!) < mean(before.points[0]!);
  const ticks = $derived(
    [low, ...last.points.map((point) => point.setting_Nm), high].filter(
      (t, i, all) => all.indexOf(t) === i,
    ),
  );
</script>

<svg
  viewBox="0 0 {W} {H + 36}"
  class="mt-2 w-full"
  role="img"
  aria-label={sentence('tool.range_chart', {
    least: percent(least, 1),
    most: percent(most, 1),
    checks: said,
  })}
>
  <defs>
    <pattern
      id="{id}-out"
      width="6"
      height="6"
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(-45)"
      ><line x1="0" x2="0" y2="6" stroke="var(--stop)" stroke-width="1.4" opacity="0.5" /></pattern
    >
  </defs>
  <rect x={LEFT} y={TOP} width={W - LEFT} height={H - TOP} fill="url(#{id}-out)" />
  <rect x={LEFT} y={y(most)} width={W - LEFT} height={y(least) - y(most)} fill="var(--tint)" />
  {#each [most, least] as limit (limit)}
    <line x1={LEFT} x2={W} y1={y(limit)} y2={y(limit)} stroke="var(--ink)" stroke-width="2" />
    <text x={LEFT - 6} y={y(limit) + 4} text-anchor="end" font-weight="700"
      >{digits(limit * 100, 4)}</text
    >
  {/each}
  <line x1={LEFT} x2={W} y1={y(1)} y2={y(1)} stroke="var(--soft)" stroke-dasharray="2 4" />
  <text x={LEFT - 6} y={y(1) + 4} text-anchor="end" class="quiet">100</text>
  {#each shown as check (check.id)}
    <path d={line(check)} fill="none" stroke="var(--ink)" stroke-width="2" />
    {#each check.points as point (point.setting)}
      {#each point.delivered as one, i (i)}
        <line
          x1={x(point.setting_Nm) - 11}
          x2={x(point.setting_Nm) + 11}
          y1={y(one)}
          y2={y(one)}
          stroke="var(--ink)"
        />
      {/each}
      {#if check.verdict === 'fail'}<rect
          x={x(point.setting_Nm) - 6}
          y={y(mean(point)) - 6}
          width="12"
          height="12"
          fill="var(--stop)"
          stroke="var(--sheet)"
        />{:else}<circle
          cx={x(point.setting_Nm)}
          cy={y(mean(point))}
          r="6"
          fill="var(--sheet)"
          stroke="var(--ink)"
          stroke-width="2"
        />{/if}
    {/each}
    {@const half = check.points[Math.floor((check.points.length - 1) / 2)]!}
    <text x={x(half.setting_Nm) + 16} y={y(mean(half)) + (below(check) ? 19 : -12)} class="day"
      >{day(check.at)}, {check.verdict === 'pass'
        ? 'passed'
        : check.verdict === 'fail'
          ? 'failed'
          : 'undecided'}</text
    >
  {/each}
  <line x1={LEFT} x2={W} y1={H} y2={H} stroke="var(--ink)" />
  {#each ticks as tick (tick)}
    <text x={x(tick)} y={H + 17} text-anchor="middle">{digits(tick)}</text>
  {/each}
  {#each inRange as torque (torque)}<path
      d="M{x(torque) - 5} {H - 8}h10l-5 8Z"
      fill="var(--ink)"
    />{/each}
  <text x={W} y={H + 33} text-anchor="end" class="quiet">setting, N·m</text>
</svg>
{#if inRange.length}<p class="soft text-sm">
    <svg viewBox="0 0 10 8" width="10" height="8" class="inline-block" aria-hidden="true"
      ><path d="M0 0h10l-5 8Z" fill="var(--ink)" /></svg
    >
    {sentence('tool.used_at', { settings: inRange.map((one) => digits(one, 3)).join(', ') })}
  </p>{/if}

<style>
  text {
    font-size: 13px;
    fill: var(--ink);
  }
  .quiet {
    fill: var(--soft);
  }
  .day {
    font-weight: 700;
    paint-order: stroke;
    stroke: var(--paper);
    stroke-width: 5px;
    stroke-linejoin: round;
  }
</style>
