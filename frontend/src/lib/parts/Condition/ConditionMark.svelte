<script lang="ts">
  import Mark from '../Mark.svelte';

  /**
   * The mark of a condition: a square for what must not be used, a tick for what is proven, a
   * triangle for the rest.
   */
  let { word }: { word: string } = $props();
</script>

{#if word === 'do_not_use'}<Mark severity="stop" />
{:else if word === 'proven'}
  <svg viewBox="0 0 16 16" class="inline-block h-4 w-4 shrink-0" role="img" aria-label="proven">
    <path d="M1.5 8.500 6 13.500 14.500 2.500" fill="none" stroke="var(--brine)" stroke-width="2" />
  </svg>
{:else}<Mark severity="caution" />{/if}
