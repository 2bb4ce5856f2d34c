<script lang="ts">
  import { sentence } from '#lib/sentence.ts';
  import type { Schemas } from '../api/client';

  /**
   * What tests of a compound say: every test a point, the band of all of them behind; one line for
   * each kind of figure.
   */
  let { tested }: { tested: Schemas['RigBandOut'][] } = $props();
  const WORDS: Record<string, string> = {
    mu_total: 'friction of thread and face together',
    mu_thread: 'friction of the thread',
    mu_bearing: 'friction of the face',
    nut_factor: 'nut factor',
  };
  const WIDTH = 300;
  const ends = (one: Schemas['RigBandOut']) => {
    const all = [...one.points.map((p) => p.value), ...(one.band ?? [])];
    const [low, high] = [Math.min(...all), Math.max(...all)];
    const room = (high - low || low) * 0.1;
    return [low - room, high + room] as const;
  };
  const x = (one: Schemas['RigBandOut'], value: number) => {
    const [low, high] = ends(one);
    return 8 + ((value - low) / (high - low)) * (WIDTH - 16);
  };
  const said = (one: Schemas['RigBandOut']) =>
    one.band ? `${one.band.map((v) => v.toFixed(3)).join(' – ')}` : 'too few for a band';
</script>

{#each tested as one (one.what)}
  <figure class="text-sm">
    <figcaption>
      <b>{WORDS[one.what] ?? one.what}</b>: {said(one)}
      <span class="soft"
        >{sentence('bench.tests_on', { count: one.count, threads: one.threads.join(', ') })}</span
      >
    </figcaption>
    <svg
      viewBox="0 0 {WIDTH} 26"
      class="w-full max-w-[360px]"
      role="img"
      aria-label={sentence('bench.tests_points', { count: one.count })}
    >
      <line x1="0" x2={WIDTH} y1="13" y2="13" class="axis" />
      {#if one.band}
        <rect
          x={x(one, one.band[0]!)}
          width={x(one, one.band[2]!) - x(one, one.band[0]!)}
          y="6"
          height="14"
          class="band"
        />
        <line x1={x(one, one.band[1]!)} x2={x(one, one.band[1]!)} y1="3" y2="23" class="middle" />
      {/if}
      {#each one.points as point, i (i)}
        <circle cx={x(one, point.value)} cy="13" r="3.5" class="point">
          <title
            >{point.value.toFixed(4)}, {[point.thread, point.date, point.sheet]
              .filter(Boolean)
              .join(', ')}</title
          >
        </circle>
      {/each}
    </svg>
  </figure>
{/each}
{#if tested.some((one) => one.band)}
  <p class="soft text-sm">
    Mean, and the interval that holds 90 % of such joints with 95 % confidence (ISO 16047 tests,
    normal).
  </p>
{/if}

<style>
  .axis {
    stroke: var(--hairline);
  }
  .band {
    fill: var(--tint);
    stroke: var(--brine);
  }
  .middle {
    stroke: var(--brine);
    stroke-width: 2;
  }
  .point {
    fill: var(--ink);
    fill-opacity: 0.65;
  }
</style>
