<script lang="ts">
  /** Heads drawn with their marks, to be held against the bolt. */
  let { rows }: { rows: string[][] } = $props();
  const drawn = $derived(rows.filter((r) => r[3] === 'head').slice(0, 14));
</script>

<div class="mb-3 flex flex-wrap gap-3">
  {#each drawn as row (row.slice(0, 2).join())}
    {@const lines = Number(row[4]) || 0}
    <figure class="w-[74px] text-center">
      <svg
        viewBox="-40 -40 80 80"
        width="74"
        height="74"
        role="img"
        aria-label="{row[0]} {row[1]}: {row[2]}"
      >
        <polygon points="34,0 17,29.4 -17,29.4 -34,0 -17,-29.4 17,-29.4" class="head" />
        <circle r="26" class="face" />
        {#each Array.from({ length: lines }, (_, i) => i) as i (i)}
          <line
            x1="0"
            y1="-11"
            x2="0"
            y2="-23"
            class="mark"
            transform="rotate({(360 / lines) * i})"
          />
        {/each}
        {#if !lines && row[2] !== 'none'}<text y="5">{row[2]}</text>{/if}
      </svg>
      <figcaption class="soft text-xs leading-tight">{row[0]} {row[1]}</figcaption>
    </figure>
  {/each}
</div>

<style>
  .head {
    fill: var(--sheet);
    stroke: var(--ink);
    stroke-width: 2;
  }
  .face {
    fill: none;
    stroke: var(--hairline);
  }
  .mark {
    stroke: var(--ink);
    stroke-width: 3.5;
  }
  text {
    font-size: 15px;
    font-weight: 700;
    text-anchor: middle;
    fill: var(--ink);
  }
</style>
