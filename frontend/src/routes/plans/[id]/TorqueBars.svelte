<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { digits } from '#lib/figures.ts';
  import { sentence } from '#lib/sentence.ts';
  import { looksAt } from './steps.ts';
  import type { Tape } from './tape.svelte.ts';

  /**
   * Each bolt's torque after the step of the tape, in percent of its target; a tick where it is at
   * the end.
   */
  let { tape, group }: { tape: Tape; group: Schemas['GroupOut'] } = $props();
  const W = 400;
  const H = 104;
  const LEFT = 34;
  const ends = $derived(looksAt(tape.steps, null).looks);
  const bars = $derived(
    group.places.map((place, i, all) => {
      const step = (W - LEFT) / all.length;
      return {
        ...place,
        x: LEFT + i * step,
        width: Math.max(2, step - Math.min(6, step * 0.2)),
        now: tape.now.looks[place.id]?.percent ?? 0,
        end: ends[place.id]?.percent ?? 0,
        next: tape.now.next.includes(place.id),
      };
    }),
  );
  const most = $derived(Math.max(100, ...bars.map((bar) => Math.max(bar.now, bar.end))));
  const y = (percent: number) => H - (percent / most) * (H - 12);
  const every = $derived(bars.length > 24 ? 4 : 1);
  const said = $derived(bars.map((bar) => `${bar.label}: ${digits(bar.now, 3)} %`).join(', '));
</script>

<figure>
  <figcaption class="leading-tight">
    <h2>
      {group.target?.force_N ? 'Load per bolt, % of target' : 'Torque per bolt, % of target'}
      <span class="soft text-sm font-normal"
        >after this step; <b class="text-ink">━</b> at the end</span
      >
    </h2>
  </figcaption>
  <svg
    viewBox="0 0 {W} {H + 18}"
    class="mt-1 block w-full"
    role="img"
    aria-label={sentence('bench.bars', { bolts: said })}
  >
    {#each [0, 50, 100] as line (line)}
      <line
        x1={LEFT - 4}
        x2={W}
        y1={y(line)}
        y2={y(line)}
        stroke={line ? 'var(--hairline)' : 'var(--ink)'}
      />
      <text x={LEFT - 8} y={y(line) + 4} text-anchor="end" class="quiet">{line}</text>
    {/each}
    {#each bars as bar, i (bar.id)}
      <rect
        x={bar.x}
        y={y(bar.now)}
        width={bar.width}
        height={H - y(bar.now)}
        fill={bar.now >= 99.5 ? 'var(--load)' : 'var(--bar-part)'}
        stroke="var(--ink)"
        stroke-width="0.8"
      />
      {#if bar.end}<line
          x1={bar.x - 1}
          x2={bar.x + bar.width + 1}
          y1={y(bar.end)}
          y2={y(bar.end)}
          stroke="var(--ink)"
          stroke-width="2.6"
        />{/if}
      {#if i % every === 0 || bar.next}
        <text
          x={bar.x + bar.width / 2}
          y={H + 13}
          text-anchor="middle"
          class={bar.next ? 'next' : 'quiet'}>{bar.label}</text
        >
      {/if}
      {#if bar.next}<rect
          x={bar.x}
          y={H + 15}
          width={bar.width}
          height="3"
          fill="var(--brine)"
        />{/if}
    {/each}
  </svg>
</figure>

<style>
  svg {
    --bar-part: color-mix(in srgb, var(--load) 35%, var(--paper));
  }
  text {
    font-size: 11px;
    fill: var(--ink);
  }
  .quiet {
    fill: var(--soft);
  }
  .next {
    font-weight: 800;
  }
</style>
