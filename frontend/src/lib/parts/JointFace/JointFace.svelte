<script lang="ts">
  import Bolt from './Bolt.svelte';
  import { geometryOf, type BoltLook, type Place } from './geometry';

  interface Props {
    /** Bolts at one position, mm, seen from the turning side. */
    places: Place[];
    /** Width of the largest heads, mm. */
    acrossFlats: number;
    /** Width of the heads by group, where groups differ, mm. */
    heads?: Record<string, number>;
    /** State and share of the torque by place; a place that is missing is untouched. */
    looks?: Record<string, BoltLook>;
    /** The bolts to do now: drawn with a doubled outline. */
    next?: string[];
    /** Large words in the middle of a ring. */
    middle?: string;
    /** Small words below them. */
    below?: string;
    /** Words for those who do not see the drawing. */
    label: string;
    /** Numbers shown on the bolts instead of their place numbers. */
    numbers?: Record<string, string>;
    /** Small glyph without numbers, for lists. */
    glyph?: boolean;
  }
  let {
    places,
    acrossFlats,
    heads,
    looks = {},
    next = [],
    middle = '',
    below = '',
    label,
    numbers,
    glyph = false,
  }: Props = $props();
  const face = $derived(geometryOf(places, acrossFlats));
  const bolts = $derived(
    places.map((place) => {
      const look = looks[place.id] ?? { state: 'untouched', percent: 0 };
      const fill = Math.max(0, Math.min(1, look.percent / 100));
      const text = numbers?.[place.id] ?? place.label ?? String(place.number);
      const own = heads?.[place.id.slice(0, place.id.lastIndexOf('.'))] ?? acrossFlats;
      return {
        ...place,
        look,
        fill,
        radius: face.radius * Math.min(1, Math.max(0.55, own / acrossFlats)),
        text,
        x: place.x_mm,
        y: -place.y_mm,
        turn: (place.angle_deg * Math.PI) / 180,
        isNext: next.includes(place.id),
      };
    }),
  );
  /** Font size of the middle as a share of the ring's inner radius, by how much has to fit. */
  const size = $derived(middle.length > 4 ? 0.5 : middle.length > 2 ? 0.8 : middle.length > 1 ? 1.2 : 1.35);
</script>

<svg viewBox={face.box.join(' ')} class="block h-full w-full" role="img" aria-label={label}>
  {#if face.ring}
    <circle r={face.ring.outer} class="flange" stroke-width={face.half * 0.004} />
    {#if face.ring.inner > 0}<circle r={face.ring.inner} class="hole" stroke-width={face.half * 0.004} />{/if}
    <circle
      r={face.ring.pitch}
      class="pitch"
      stroke-width={face.half * 0.004}
      stroke-dasharray="{face.half * 0.006} {face.half * 0.03}"
    />
  {/if}
  {#if face.plate}
    <rect
      x={face.plate[0]}
      y={face.plate[1]}
      width={face.plate[2]}
      height={face.plate[3]}
      rx={face.radius * 0.5}
      class="flange"
      stroke-width={face.half * 0.004}
    />
  {/if}
  {#each bolts as bolt (bolt.id)}<Bolt {bolt} {glyph} half={face.half} />{/each}
  {#if face.ring && face.ring.inner > 0 && middle}
    <text x="0" y={face.ring.inner * size * 0.34} font-size={face.ring.inner * size} class="middle">{middle}</text>
  {/if}
  {#if face.ring && face.ring.inner > 0 && below}
    <text x="0" y={face.ring.inner * (middle ? 0.74 : 0.04)} font-size={face.ring.inner * 0.125} class="below">{below}</text>
  {/if}
</svg>

<style>
  .flange {
    fill: var(--sheet);
    stroke: var(--hairline);
  }
  .hole {
    fill: var(--paper);
    stroke: var(--hairline);
  }
  .pitch {
    fill: none;
    stroke: var(--rule);
  }
  text {
    text-anchor: middle;
    font-weight: 700;
    fill: var(--ink);
  }
  .middle {
    font-weight: 800;
  }
  .below {
    font-weight: 500;
    fill: var(--soft);
  }
</style>
