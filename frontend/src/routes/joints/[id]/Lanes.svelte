<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { day } from '#lib/figures.ts';
  import { laneGeometry, MARKS } from './lanes.ts';

  /**
   * The year of a joint: a lane for each position, bands for its condition, marks for what
   * happened.
   */
  let { view }: { view: Schemas['ConditionView'] } = $props();
  let width = $state(900);
  const drawn = $derived(laneGeometry(view, Math.max(320, width)));
  let chosen = $state<string>('');
  const told = $derived(
    drawn.lanes
      .flatMap((l) => l.marks.map((m) => ({ ...m, lane: l.name })))
      .find((m) => m.id === chosen) ?? drawn.last,
  );
  const used = $derived(new Set(drawn.lanes.flatMap((l) => l.bands.map((b) => b.word))));
  const kinds = $derived(new Set(drawn.lanes.flatMap((l) => l.marks.map((m) => m.kind))));
</script>

{#if drawn.lanes.length}
  <section class="mt-5" aria-label="History" bind:clientWidth={width}>
    <div class="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
      <h2>History</h2>
      <p class="soft flex flex-wrap gap-x-4 text-sm">
        {#each Object.entries(MARKS).filter(([kind]) => kinds.has(kind)) as [kind, mark] (kind)}
          <span class="flex items-center gap-1"
            ><svg viewBox="-8 -8 16 16" class="h-4 w-4">{@render sign(kind, 0)}</svg>{mark}</span
          >
        {/each}
        {#each view.legend.filter((one) => used.has(one.id)) as { id: word, name: title } (word)}
          <span class="flex items-center gap-1"
            ><svg viewBox="0 0 24 12" class="h-3 w-6"
              ><rect x="0.5" y="0.5" width="23" height="11" class="band {word}" /></svg
            >{title.toLowerCase()}</span
          >
        {/each}
      </p>
    </div>
    <svg
      viewBox="0 0 {drawn.width} {drawn.height}"
      class="lanes mt-1 w-full"
      role="group"
      aria-label="The year by position"
    >
      <defs>
        <pattern
          id="hatch"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <line x1="0" y1="0" x2="0" y2="7" stroke="var(--caution)" stroke-width="2" />
        </pattern>
      </defs>
      {#each drawn.months as month (month.x)}
        <line x1={month.x} x2={month.x} y1="18" y2={drawn.foot} stroke="var(--hairline)" />
        {#if month.words}<text x={month.x + 3} y="12" class="small">{month.words}</text>{/if}
      {/each}
      {#each drawn.lanes as lane (lane.name)}
        <text x="0" y={lane.y + 14} class="name">{lane.name}</text>
        {#each lane.bands as band (band.x)}
          <rect x={band.x} y={lane.y} width={band.width} height="18" class="band {band.word}"
            ><title>{band.title}</title></rect
          >
        {/each}
        {#each lane.marks as mark (mark.id)}
          <polyline points={mark.leader} fill="none" stroke="var(--ink)" />
          <g
            transform="translate({mark.x} {mark.y})"
            role="button"
            tabindex="0"
            aria-label="{day(mark.at)}, {lane.name}: {mark.words}"
            onclick={() => (chosen = mark.id)}
            onkeydown={(e) =>
              (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), (chosen = mark.id))}
          >
            <rect x="-12" y="-12" width="24" height="24" fill="transparent" class="hit" />
            {#if told?.id === mark.id}<circle
                r="12"
                fill="none"
                stroke="var(--brine)"
                stroke-width="2"
              />{/if}
            {@render sign(mark.kind, mark.count)}
          </g>
        {/each}
      {/each}
      <line
        x1={drawn.today}
        x2={drawn.today}
        y1="18"
        y2={drawn.foot}
        stroke="var(--brine)"
        stroke-width="2"
      />
      {#each drawn.dues as due (due.lane)}
        <circle
          cx={due.x}
          cy={due.y}
          r="7"
          fill="none"
          stroke="var(--ink)"
          stroke-dasharray="3 2"
        />
      {/each}
      {#each drawn.ticks as tick (tick.x)}<text x={tick.x} y={drawn.foot + 14} class="small"
          >{tick.words}</text
        >{/each}
    </svg>
    {#if told}
      <p class="flex flex-wrap justify-between gap-3 bg-tint px-3 py-2">
        <span
          ><b>{day(told.at)}{told.lane === 'Joint' ? '' : `, ${told.lane}`}.</b> {told.words}</span
        >
        {#if told.run_id}<a href="/runs/{told.run_id}/record" class="font-semibold">Open record</a
          >{/if}
      </p>
    {/if}
  </section>
{/if}

{#snippet sign(kind: string, count: number)}
  {#if kind === 'tightened'}<path
      d="M-7 0 -3.500 -6H3.500L7 0 3.500 6H-3.500Z"
      fill="var(--load)"
      stroke="var(--ink)"
    />
  {:else if kind === 'moved'}<circle r="8" fill="var(--ink)" /><text
      y="4"
      text-anchor="middle"
      class="disc">{count || ''}</text
    >
  {:else if kind === 'replaced'}<path
      d="M0 -8 8 0 0 8 -8 0Z"
      fill="var(--sheet)"
      stroke="var(--ink)"
      stroke-width="1.5"
    />
  {:else if kind === 'not_safe' || kind === 'failed'}<rect
      x="-6"
      y="-6"
      width="12"
      height="12"
      fill="var(--stop)"
    />
  {:else if kind === 'opened' || kind === 'cut_short'}<path
      d="M0 -7 7 6H-7Z"
      fill="var(--caution)"
    />
  {:else if kind === 'use_as_is'}<rect
      x="-6"
      y="-6"
      width="12"
      height="12"
      fill="var(--sheet)"
      stroke="var(--caution)"
      stroke-width="2"
    />
  {:else if kind === 'apart'}<path d="M-6 -6 6 6M6 -6 -6 6" stroke="var(--ink)" stroke-width="2" />
  {:else}<circle r="5.500" fill="var(--sheet)" stroke="var(--ink)" stroke-width="1.5" />{/if}
{/snippet}

<style>
  .lanes text,
  .small {
    font-size: 12px;
    fill: var(--soft);
  }
  .lanes .name {
    font-size: 13px;
    font-weight: 700;
    fill: var(--ink);
  }
  .lanes .disc {
    font-size: 11px;
    font-weight: 700;
    fill: var(--sheet);
  }
  .band {
    stroke: var(--rule);
    fill: var(--paper);
  }
  .band.proven {
    fill: var(--tint);
    stroke: var(--load);
  }
  .band.moved,
  .band.limited,
  .band.provisional {
    fill: url(#hatch);
    stroke: var(--caution);
  }
  .band.do_not_use {
    fill: var(--stop);
    stroke: var(--stop);
  }
  .band.unknown,
  .band.apart {
    stroke-dasharray: 3 2;
  }
  @media (pointer: coarse) {
    .hit {
      transform: scale(2);
    }
  }
  g[role='button'] {
    cursor: pointer;
  }
</style>
