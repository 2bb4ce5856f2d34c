<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    /** Number in work order. */
    number: number;
    title: string;
    /** The one telling line shown while folded. */
    line: string;
    /** What the marker says. */
    mark: 'good' | 'caution' | 'stop';
    open: boolean;
    ontoggle: () => void;
    children: Snippet;
  }
  let { number, title, line, mark, open, ontoggle, children }: Props = $props();
  const uid = $props.id();
</script>

<section class="section">
  <button class="head" aria-expanded={open} aria-controls="{uid}-body" onclick={ontoggle}>
    <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
      {#if mark === 'stop'}
        <rect x="2" y="2" width="20" height="20" class="stop" />
      {:else if mark === 'caution'}
        <path d="M12 1.500 23 22H1Z" class="caution" />
      {:else}
        <circle cx="12" cy="12" r="10.5" class={open ? 'open' : 'good'} />
      {/if}
      <text x="12" y={mark === 'caution' ? 19 : 16.5} class={open || mark !== 'good' ? 'on' : ''}>{number}</text>
    </svg>
    <span class="min-w-0"
      ><b>{title}</b>{#if mark !== 'good'}<span class="sr-only">, {mark}</span>{/if}<br /><span class="line">{line}</span></span
    >
  </button>
  {#if open}<div id="{uid}-body" class="body">{@render children()}</div>{/if}
</section>

<style>
  .section {
    border-left: 2px solid var(--hairline);
    margin-left: 11px;
    padding: 0 0 0.55rem 0;
  }
  .head {
    display: grid;
    grid-template-columns: 24px 1fr;
    gap: 0.7rem;
    width: 100%;
    text-align: left;
    margin-left: -13px;
    line-height: 1.3;
    border-radius: 4px;
  }
  .head svg {
    background: var(--sheet);
    border-radius: 50%;
  }
  .line {
    color: var(--soft);
    font-size: 0.9rem;
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .body {
    padding: 0.5rem 0 0.4rem 1.6rem;
    display: grid;
    gap: 0.6rem;
  }
  .good {
    fill: var(--sheet);
    stroke: var(--brine);
    stroke-width: 1.5;
  }
  .open {
    fill: var(--brine);
  }
  .caution {
    fill: var(--caution);
  }
  .stop {
    fill: var(--stop);
  }
  text {
    font-size: 12px;
    font-weight: 700;
    text-anchor: middle;
    fill: var(--brine);
  }
  .on {
    fill: var(--sheet);
  }
</style>
