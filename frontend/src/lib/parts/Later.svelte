<script lang="ts">
  import type { Snippet } from 'svelte';

  /**
   * Draws what it holds after what stands before it has been painted, so that a key is answered in
   * between.
   */
  let { children }: { children: Snippet } = $props();
  let ready = $state(false);
  $effect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const frame = requestAnimationFrame(() => (timer = setTimeout(() => (ready = true))));
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
    };
  });
</script>

{#if ready}{@render children()}{/if}
