<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import type { Run } from '#lib/run.svelte.ts';

  /**
   * What the server said to the last tap, on top of everything: refused, kept aside, asked back; or
   * that it was kept.
   */
  let { run }: { run: Run } = $props();
</script>

{#if run.said}
  <Notice severity="stop" class="mx-4 mt-2 text-lg">
    <p>{run.said}</p>
    {#if run.asked}
      <div class="mt-2 flex flex-wrap gap-3">
        <Button color="primary" class="min-h-[56px] text-lg" onclick={() => run.meant()}
          >Confirm {run.asked.payload.value}</Button
        >
        <Button
          color="alternative"
          class="min-h-[56px] text-lg"
          onclick={() => ((run.said = ''), (run.asked = null))}>Correct reading</Button
        >
      </div>
    {:else}
      <Button color="alternative" class="mt-2 min-h-[56px]" onclick={() => (run.said = '')}
        >Close</Button
      >
    {/if}
  </Notice>
{:else if run.kept}
  <p class="kept mx-4 mt-2 rounded bg-tint px-3 py-2 text-lg font-semibold" role="status">
    {run.kept}
  </p>
{/if}
