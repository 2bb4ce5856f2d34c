<script lang="ts">
  import { sentence } from '#lib/sentence.ts';
  import type { Schemas } from '../../api/client';

  /**
   * The chain drawn from above: hand, wrench, adapter, multiplier with its reaction arm, bolt; not
   * to scale.
   */
  let { links, reaction }: { links: Schemas['LinkOut'][]; reaction: boolean } = $props();
  const adapter = $derived(links.find((l) => l.kind === 'adapter'));
  const multipliers = $derived(links.filter((l) => l.kind === 'multiplier'));
  const wrench = $derived(links.find((l) => l.kind === 'wrench'));
  /** Drive of the wrench, and the bolt: with a multiplier the wrench turns its input. */
  const boltX = 268;
  const Y = 52;
  const turn = $derived(((adapter?.angle_deg ?? 0) * Math.PI) / 180);
  const reach = $derived(adapter ? 46 : 0);
  const driveX = $derived(boltX - reach * Math.cos(turn));
  const driveY = $derived(Y + reach * Math.sin(turn));
  const gripX = 34;
</script>

<svg
  viewBox="0 0 330 104"
  class="chain"
  role="img"
  aria-label={sentence('wrench.chain', {
    links: links.map((l) => `${l.kind} ${l.text}`).join(', '),
    reaction: reaction ? 'yes' : 'no',
  })}
>
  <line x1={gripX} x2={driveX} y1={driveY} y2={driveY} class="handle" />
  <rect x={gripX - 20} y={driveY - 7} width="52" height="14" rx="6" class="grip" />
  <path d="M{gripX + 4} {driveY - 34} v20 m-5 -7 l5 7 5 -7" class="hand" />
  <text x={gripX + 14} y={driveY - 20}>hand at the grip</text>
  {#if wrench?.length_mm}
    <line x1={gripX + 4} x2={driveX} y1={driveY + 15} y2={driveY + 15} class="measure" />
    <text x={(gripX + driveX) / 2} y={driveY + 27} class="mid"
      >{wrench.length_mm.toFixed(0)} mm</text
    >
  {/if}
  {#if adapter}
    <line x1={driveX} y1={driveY} x2={boltX} y2={Y} class="adapter" />
    <circle cx={driveX} cy={driveY} r="4.5" class="joint" />
    <text x={driveX - 2} y={Math.min(driveY, Y) - 12} class="mid"
      >{adapter.text}{adapter.angle_deg ? `, ${adapter.angle_deg.toFixed(0)}°` : ''}</text
    >
  {/if}
  {#if multipliers.length}
    <circle cx={boltX} cy={Y} r="19" class="housing" />
    <text x={boltX} y={Y + 34} class="mid">{multipliers.map((m) => m.text).join(' · ')}</text>
    {#if reaction}
      <path d="M{boltX} {Y - 19} v-28" class="arm" />
      <path d="M{boltX + 30} {Y - 42} h-24 m8 -5 l-8 5 8 5" class="reaction" />
      <text x={boltX + 8} y={Y - 26}>reacts</text>
    {/if}
  {/if}
  <path d="M{boltX + 8} {Y} l-4 7 h-8 l-4 -7 4 -7 h8Z" class="bolt" />
  <path d="M{boltX + 17} {Y - 13} a22 22 0 0 1 0 26 m-1 -6 l1 6 6 -2" class="turns" />
</svg>

<style>
  .chain {
    width: 100%;
    max-width: 330px;
  }
  .handle {
    stroke: var(--ink);
    stroke-width: 5;
  }
  .grip {
    fill: var(--soft);
  }
  .adapter {
    stroke: var(--load);
    stroke-width: 8;
    stroke-linecap: round;
  }
  .joint {
    fill: var(--sheet);
    stroke: var(--ink);
    stroke-width: 2;
  }
  .housing {
    fill: var(--tint);
    stroke: var(--ink);
    stroke-width: 2;
  }
  .bolt {
    fill: var(--sheet);
    stroke: var(--ink);
    stroke-width: 2;
  }
  .arm {
    stroke: var(--ink);
    stroke-width: 6;
  }
  .hand,
  .turns {
    fill: none;
    stroke: var(--brine);
    stroke-width: 2.4;
  }
  .reaction {
    fill: none;
    stroke: var(--caution);
    stroke-width: 2.4;
  }
  .measure {
    stroke: var(--rule);
    stroke-width: 1;
  }
  text {
    font-size: 11px;
    fill: var(--soft);
  }
  .mid {
    text-anchor: middle;
  }
</style>
