<script lang="ts">
  import BoltMark from './BoltMark.svelte';
  import { hexagon, type DrawnBolt } from './geometry';

  /**
   * One bolt as a hexagon filled to its share of the torque, with its number; the one to do now has
   * a doubled outline.
   */
  interface Props {
    bolt: DrawnBolt;
    /** Half of the drawing's longer side, mm: the measure for lines. */
    half: number;
    /** Small, without number and mark. */
    glyph: boolean;
    /** Called when it is pressed, where it can be. */
    onpress?: (place: string) => void;
  }
  let { bolt, half, glyph, onpress }: Props = $props();
  const uid = $props.id();
  const press = () => onpress?.(bolt.id);
  function key(event: KeyboardEvent) {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    press();
  }
  const pressed = $derived(
    onpress
      ? {
          role: 'button',
          tabindex: 0,
          'aria-label': `Bolt ${bolt.text}`,
          onclick: press,
          onkeydown: key,
        }
      : {},
  );
</script>

<g
  data-place={bolt.id}
  data-state={bolt.look.state}
  class={onpress ? 'cursor-pointer' : ''}
  {...pressed}
>
  {#if bolt.isNext}
    <polygon
      points={hexagon(bolt.x, bolt.y, bolt.radius * 1.38, bolt.turn)}
      class="halo"
      stroke-width={half * 0.01}
    />
  {/if}
  <polygon points={hexagon(bolt.x, bolt.y, bolt.radius, bolt.turn)} class="body" />
  {#if bolt.fill > 0}
    <clipPath id="{uid}-{bolt.id}">
      <rect
        x={bolt.x - bolt.radius}
        width={bolt.radius * 2}
        y={bolt.y + bolt.radius - 2 * bolt.radius * bolt.fill}
        height={2 * bolt.radius * bolt.fill}
      />
    </clipPath>
    <polygon
      points={hexagon(bolt.x, bolt.y, bolt.radius, bolt.turn)}
      class={bolt.fill >= 1 ? 'full' : 'part'}
      clip-path="url(#{uid}-{bolt.id})"
    />
  {/if}
  <polygon
    points={hexagon(bolt.x, bolt.y, bolt.radius, bolt.turn)}
    class="edge {bolt.isNext ? 'edge-next' : ''}"
    stroke-width={half * (glyph ? 0.02 : bolt.isNext ? 0.02 : 0.006)}
  />
  {#if !glyph}
    <text
      x={bolt.x}
      y={bolt.y + bolt.radius * 0.31}
      font-size={bolt.radius * (bolt.text.length > 2 ? 0.7 : 0.9)}
      class={bolt.fill >= 1 ? 'on-full' : ''}>{bolt.text}</text
    >
    {#if bolt.look.gap_mm != null}
      <text x={bolt.x} y={bolt.y + bolt.radius * 1.75} font-size={bolt.radius * 0.62} class="gap"
        >{bolt.look.gap_mm.toFixed(1)}</text
      >
    {/if}
    <BoltMark {bolt} />
  {/if}
</g>

<style>
  .body {
    fill: var(--sheet);
  }
  .part {
    fill: color-mix(in srgb, var(--load) 34%, var(--sheet));
  }
  .full {
    fill: var(--load);
  }
  .edge {
    fill: none;
    stroke: var(--ink);
  }
  .edge-next {
    stroke: var(--brine);
  }
  .halo {
    fill: var(--sheet);
    stroke: var(--brine);
  }
  text {
    text-anchor: middle;
    font-weight: 700;
    fill: var(--ink);
  }
  .on-full {
    fill: #fff;
  }
  .gap {
    font-weight: 600;
    fill: var(--soft);
  }
</style>
