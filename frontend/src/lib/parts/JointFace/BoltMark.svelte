<script lang="ts">
  import type { DrawnBolt } from './geometry';

  /** The mark of a bolt's state beside or on its hexagon; told by shape, not by colour alone. */
  let { bolt }: { bolt: DrawnBolt } = $props();
</script>

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
  <rect
    x={bolt.x + bolt.radius * 0.62}
    y={bolt.y - bolt.radius * 1.05}
    width={q}
    height={q}
    class="deviating"
  />
{:else if bolt.look.state === 'checked'}
  {@const c = bolt.radius * 0.3}
  <path
    d="M{bolt.x + bolt.radius * 0.66} {bolt.y - bolt.radius * 0.72} l{c * 0.8} {c * 0.8} l{c *
      1.5} {-c * 1.7}"
    class="checked"
    stroke-width={bolt.radius * 0.14}
  />
{/if}

<style>
  .loose {
    stroke: var(--ink);
    fill: none;
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
  .checked {
    fill: none;
    stroke: var(--brine);
  }
</style>
