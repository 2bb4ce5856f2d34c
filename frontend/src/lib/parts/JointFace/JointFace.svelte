<script lang="ts">
  import { geometryOf, hexagon, type Place } from './geometry';

  interface BoltLook {
    state: string;
    percent: number;
    gap_mm?: number | null;
  }
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
  const uid = $props.id();
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
  {#each bolts as bolt (bolt.id)}
    <g data-place={bolt.id} data-state={bolt.look.state}>
      {#if bolt.isNext}
        <polygon points={hexagon(bolt.x, bolt.y, bolt.radius * 1.38, bolt.turn)} class="halo" stroke-width={face.half * 0.01} />
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
        stroke-width={face.half * (glyph ? 0.02 : bolt.isNext ? 0.02 : 0.006)}
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
        {#if bolt.look.state === 'loose'}
          <path
            d="M{bolt.x - bolt.radius * 0.5} {bolt.y + bolt.radius * 0.7} h{bolt.radius}"
            class="loose"
            stroke-width={bolt.radius * 0.1}
            stroke-dasharray="{bolt.radius * 0.2} {bolt.radius * 0.14}"
          />
        {:else if bolt.look.state === 'hand'}
          <circle cx={bolt.x} cy={bolt.y + bolt.radius * 0.62} r={bolt.radius * 0.1} class="dot" />
        {:else if bolt.look.state === 'moved'}
          {@const mx = bolt.x + bolt.radius * 0.95}
          {@const my = bolt.y - bolt.radius * 0.75}
          {@const m = bolt.radius * 0.36}
          <path d="M{mx} {my - m} L{mx + m} {my + m * 0.75} L{mx - m} {my + m * 0.75} Z" class="moved" />
        {:else if bolt.look.state === 'deviating'}
          {@const q = bolt.radius * 0.56}
          <rect x={bolt.x + bolt.radius * 0.62} y={bolt.y - bolt.radius * 1.05} width={q} height={q} class="deviating" />
        {:else if bolt.look.state === 'checked'}
          {@const c = bolt.radius * 0.3}
          <path
            d="M{bolt.x + bolt.radius * 0.66} {bolt.y - bolt.radius * 0.72} l{c * 0.8} {c * 0.8} l{c * 1.5} {-c * 1.7}"
            class="checked"
            stroke-width={bolt.radius * 0.14}
          />
        {/if}
      {/if}
    </g>
  {/each}
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
  .middle {
    font-weight: 800;
  }
  .below {
    font-weight: 500;
    fill: var(--soft);
  }
  .dot {
    fill: var(--ink);
  }
  .moved {
    fill: var(--caution);
    stroke: var(--sheet);
  }
  .deviating {
    fill: var(--stop);
    stroke: var(--sheet);
  }
  .loose {
    stroke: var(--ink);
    fill: none;
  }
  .gap {
    font-weight: 600;
    fill: var(--soft);
  }
  .checked {
    fill: none;
    stroke: var(--brine);
  }
</style>
