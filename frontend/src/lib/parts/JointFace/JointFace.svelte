<script lang="ts">
  import { geometryOf, hexagon, type Place } from './geometry';

  interface BoltLook {
    state: string;
    percent: number;
  }
  interface Props {
    /** Bolts at one position, mm, seen from the turning side. */
    places: Place[];
    /** Width across flats of the hexagons, mm. */
    acrossFlats: number;
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
  let { places, acrossFlats, looks = {}, next = [], middle = '', below = '', label, numbers, glyph = false }: Props =
    $props();
  const uid = $props.id();
  const face = $derived(geometryOf(places, acrossFlats));
  const bolts = $derived(
    places.map((place) => {
      const look = looks[place.id] ?? { state: 'untouched', percent: 0 };
      const fill = Math.max(0, Math.min(1, look.percent / 100));
      const text = numbers?.[place.id] ?? String(place.number);
      return {
        ...place,
        look,
        fill,
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

<svg viewBox="{-face.half} {-face.half} {2 * face.half} {2 * face.half}" class="block h-full w-full" role="img" aria-label={label}>
  {#if face.ring}
    <circle r={face.ring.outer} class="flange" stroke-width={face.half * 0.004} />
    <circle r={face.ring.inner} class="hole" stroke-width={face.half * 0.004} />
    <circle r={face.ring.pitch} class="pitch" stroke-width={face.half * 0.004} stroke-dasharray="{face.half * 0.006} {face.half * 0.03}" />
  {/if}
  {#each bolts as bolt (bolt.id)}
    <g data-place={bolt.id} data-state={bolt.look.state}>
      {#if bolt.isNext}
        <polygon points={hexagon(bolt.x, bolt.y, face.radius * 1.38, bolt.turn)} class="halo" stroke-width={face.half * 0.01} />
      {/if}
      <polygon points={hexagon(bolt.x, bolt.y, face.radius, bolt.turn)} class="body" />
      {#if bolt.fill > 0}
        <clipPath id="{uid}-{bolt.id}">
          <rect
            x={bolt.x - face.radius}
            width={face.radius * 2}
            y={bolt.y + face.radius - 2 * face.radius * bolt.fill}
            height={2 * face.radius * bolt.fill}
          />
        </clipPath>
        <polygon
          points={hexagon(bolt.x, bolt.y, face.radius, bolt.turn)}
          class={bolt.fill >= 1 ? 'full' : 'part'}
          clip-path="url(#{uid}-{bolt.id})"
        />
      {/if}
      <polygon
        points={hexagon(bolt.x, bolt.y, face.radius, bolt.turn)}
        class="edge {bolt.isNext ? 'edge-next' : ''}"
        stroke-width={face.half * (glyph ? 0.02 : bolt.isNext ? 0.02 : 0.006)}
      />
      {#if !glyph}
        <text x={bolt.x} y={bolt.y + face.radius * 0.31} font-size={face.radius * (bolt.text.length > 2 ? 0.7 : 0.9)} class={bolt.fill >= 1 ? 'on-full' : ''}>{bolt.text}</text>
        {#if bolt.look.state === 'hand'}
          <circle cx={bolt.x} cy={bolt.y + face.radius * 0.62} r={face.radius * 0.1} class="dot" />
        {:else if bolt.look.state === 'moved'}
          {@const mx = bolt.x + face.radius * 0.95}
          {@const my = bolt.y - face.radius * 0.75}
          {@const m = face.radius * 0.36}
          <path d="M{mx} {my - m} L{mx + m} {my + m * 0.75} L{mx - m} {my + m * 0.75} Z" class="moved" />
        {:else if bolt.look.state === 'deviating'}
          {@const q = face.radius * 0.56}
          <rect x={bolt.x + face.radius * 0.62} y={bolt.y - face.radius * 1.05} width={q} height={q} class="deviating" />
        {:else if bolt.look.state === 'checked'}
          {@const c = face.radius * 0.3}
          <path
            d="M{bolt.x + face.radius * 0.66} {bolt.y - face.radius * 0.72} l{c * 0.8} {c * 0.8} l{c * 1.5} {-c * 1.7}"
            class="checked"
            stroke-width={face.radius * 0.14}
          />
        {/if}
      {/if}
    </g>
  {/each}
  {#if face.ring && middle}
    <text x="0" y={face.ring.inner * size * 0.34} font-size={face.ring.inner * size} class="middle">{middle}</text>
  {/if}
  {#if face.ring && below}
    <text x="0" y={face.ring.inner * (middle ? 0.74 : 0.04)} font-size={face.ring.inner * 0.125} class="below">{below}</text>
  {/if}
</svg>

<style>
  .flange { fill: var(--sheet); stroke: var(--hairline); }
  .hole { fill: var(--paper); stroke: var(--hairline); }
  .pitch { fill: none; stroke: var(--rule); }
  .body { fill: var(--sheet); }
  .part { fill: color-mix(in srgb, var(--load) 34%, var(--sheet)); }
  .full { fill: var(--load); }
  .edge { fill: none; stroke: var(--ink); }
  .edge-next { stroke: var(--brine); }
  .halo { fill: var(--sheet); stroke: var(--brine); }
  text { text-anchor: middle; font-weight: 700; fill: var(--ink); }
  .on-full { fill: #fff; }
  .middle { font-weight: 800; }
  .below { font-weight: 500; fill: var(--soft); }
  .dot { fill: var(--ink); }
  .moved { fill: var(--caution); stroke: var(--sheet); }
  .deviating { fill: var(--stop); stroke: var(--sheet); }
  .checked { fill: none; stroke: var(--brine); }
</style>
