<script lang="ts">
  import { sentence } from '#lib/sentence.ts';
  import type { Schemas } from '../../api/client';

  /**
   * How a setting reads on a two-part scale: main marks on the left, the collar on the right, the
   * setting in the middle.
   */
  let { scale }: { scale: Schemas['ScaleOut'] } = $props();
  const lines = (texts: string[] | undefined, step: number) =>
    (texts ?? []).map((text, i, all) => ({
      text,
      i,
      y: 52 + (i - (all.length - 1) / 2) * step,
      here: i === (all.length - 1) / 2,
    }));
  const mains = $derived(lines(scale.mains, 20));
  const collars = $derived(lines(scale.collars, 18));
</script>

<figure
  class="shrink-0"
  aria-label={sentence('wrench.scale_reads', { main: scale.main, collar: scale.collar })}
>
  <svg viewBox="0 0 150 104" width="150" height="104" aria-hidden="true">
    <rect x="82" y="6" width="62" height="92" rx="7" class="collar" />
    {#each mains as line (line.i)}
      <line x1="4" x2="24" y1={line.y} y2={line.y} class={line.here ? 'at' : 'off'} />
      <text x="66" y={line.y + 4} class={line.here ? 'here' : ''} text-anchor="end"
        >{line.text}</text
      >
    {/each}
    {#each collars as line (line.i)}
      <line x1="82" x2="100" y1={line.y} y2={line.y} class={line.here ? 'at' : 'off'} />
      <text x="112" y={line.y + 4} class={line.here ? 'here' : ''}>{line.text}</text>
    {/each}
  </svg>
  <figcaption class="soft -mt-1 text-center text-xs">
    {sentence('wrench.scale', { main: scale.main, collar: scale.collar })}
  </figcaption>
</figure>

<style>
  .collar {
    fill: var(--paper);
    stroke: var(--hairline);
  }
  .off {
    stroke: var(--rule);
  }
  .at {
    stroke: var(--ink);
    stroke-width: 2.6;
  }
  text {
    font-size: 12px;
    fill: var(--soft);
  }
  .here {
    fill: var(--ink);
    font-weight: 800;
  }
</style>
