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
    /** The large words leave room around them. */
    calm?: boolean;
    /** Small words below them. */
    below?: string;
    /** Words for those who do not see the drawing. */
    label: string;
    /** Numbers shown on the bolts instead of their place numbers. */
    numbers?: Record<string, string>;
    /** Small glyph without numbers, for lists. */
    glyph?: boolean;
    /**
     * A word or two beside a bolt, with a line to it; as many as the middle of a ring has room for.
     */
    notes?: { place: string; label: string; where: string; text: string }[];
    /** Places in the order in which they are gone over: drawn as one line. */
    path?: string[];
    /** A bolt was pressed; bolts are buttons where this is given. */
    onpress?: (place: string) => void;
  }
  let {
    places,
    acrossFlats,
    heads,
    looks = {},
    next = [],
    middle = '',
    calm = false,
    below = '',
    label,
    numbers,
    glyph = false,
    path = [],
    notes = [],
    onpress,
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
  const line = $derived.by(() => {
    const at = new Map(bolts.map((bolt) => [bolt.id, `${bolt.x.toFixed(2)},${bolt.y.toFixed(2)}`]));
    return path.flatMap((place) => at.get(place) ?? []).join(' ');
  });
  /**
   * Notes from top to bottom in the middle, none on another; more than four stand in a list beside
   * the drawing alone.
   */
  const MOST_NOTES = 4;
  const told = $derived.by(() => {
    const inner = face.ring?.inner ?? 0;
    if (!inner || !notes.length || notes.length > MOST_NOTES) return [];
    const at = new Map(bolts.map((bolt) => [bolt.id, bolt]));
    const found = notes.flatMap((note) => {
      const bolt = at.get(note.place);
      return bolt
        ? [{ note, bolt, y: Math.max(-0.75, Math.min(0.75, bolt.y / inner)) * inner * 0.8 }]
        : [];
    });
    found.sort((a, b) => a.y - b.y);
    const gap = inner * 0.34;
    found.forEach((one, i) => {
      if (i) one.y = Math.max(one.y, found[i - 1]!.y + gap);
    });
    const over = Math.max(0, (found.at(-1)?.y ?? 0) - inner * 0.7);
    return found.map(({ note, bolt, y }) => {
      const side = bolt.x < 0 ? -1 : 1;
      const edge = Math.sqrt(Math.max(0.1, 1 - ((y - over) / inner) ** 2)) * inner * 0.86;
      return { note, bolt, x: side * edge, y: y - over, side };
    });
  });
  /** Font size of the middle as a share of the ring's inner radius, by how much has to fit. */
  const size = $derived(
    middle.length > 4 ? 0.5 : middle.length > 2 ? 0.8 : middle.length > 1 ? 1.2 : 1.35,
  );
  const shownSize = $derived(calm ? Math.min(size, 0.72) : size);
</script>

<svg
  viewBox={face.box.join(' ')}
  class="block h-full w-full"
  role={onpress ? 'group' : 'img'}
  aria-label={label}
>
  {#if face.ring}
    <circle r={face.ring.outer} class="flange" stroke-width={face.half * 0.004} />
    {#if face.ring.inner > 0}<circle
        r={face.ring.inner}
        class="hole"
        stroke-width={face.half * 0.004}
      />{/if}
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
  {#if line}<polyline points={line} class="path" stroke-width={face.half * 0.007} />{/if}
  {#each bolts as bolt (bolt.id)}<Bolt {bolt} {glyph} {onpress} half={face.half} />{/each}
  {#each told as one (one.note.place + one.note.where)}
    <line
      x1={one.bolt.x * 0.9}
      y1={one.bolt.y * 0.9}
      x2={one.x + one.side * face.half * 0.01}
      y2={one.y}
      class="leader"
      stroke-width={face.half * 0.008}
    />
    <text
      x={one.x - one.side * face.half * 0.02}
      y={one.y}
      font-size={face.half * 0.085}
      class="note"
      style:text-anchor={one.side < 0 ? 'start' : 'end'}
      >{one.note.label}: {one.note.where}<tspan
        x={one.x - one.side * face.half * 0.02}
        dy="1.15em"
        class="soft-note">{one.note.text}</tspan
      ></text
    >
  {/each}
  {#if face.ring && face.ring.inner > 0 && middle}
    <text
      x="0"
      y={face.ring.inner * shownSize * 0.34}
      font-size={face.ring.inner * shownSize}
      class="middle">{middle}</text
    >
  {/if}
  {#if face.ring && face.ring.inner > 0 && below}
    <text
      x="0"
      y={face.ring.inner * (middle ? (calm ? 0.5 : 0.74) : 0.04)}
      font-size={face.ring.inner * 0.125}
      class="below">{below}</text
    >
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
  .path {
    fill: none;
    stroke: var(--load);
    stroke-linejoin: round;
    opacity: 0.55;
  }
  text {
    text-anchor: middle;
    font-weight: 700;
    fill: var(--ink);
  }
  .leader {
    stroke: var(--ink);
  }
  .soft-note {
    font-weight: 500;
  }
  .middle {
    font-weight: 800;
  }
  .below {
    font-weight: 500;
    fill: var(--soft);
  }
</style>
