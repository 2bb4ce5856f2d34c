<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';

  /**
   * Large keys for a reading, where there is no keyboard: figures as they are typed, fractions of
   * an inch too.
   */
  let { value = $bindable() }: { value: string } = $props();
  const ROWS = ['123', '456', '789', '-0.'];
  const KEY = 'min-h-[56px] border-2 border-hairline bg-sheet text-2xl font-bold';
</script>

<div class="hidden grid-cols-4 gap-1.5 pointer-coarse:grid" role="group" aria-label="Number pad">
  {#each ROWS as row, i (row)}
    {#each row as key (key)}
      <Button color="alternative" class={KEY} onclick={() => (value += key)}>{key}</Button>
    {/each}
    {#if i === 0}<Button
        color="alternative"
        class={KEY}
        aria-label="Undo last entry"
        onclick={() => (value = value.slice(0, -1))}>⌫</Button
      >
    {:else if i === 1}<Button color="alternative" class={KEY} onclick={() => (value += '/')}
        >/</Button
      >
    {:else if i === 2}<Button
        color="alternative"
        class={KEY}
        aria-label="Space"
        onclick={() => (value += ' ')}>␣</Button
      >
    {:else}<Button color="alternative" class="{KEY} text-base" onclick={() => (value = '')}
        >Clear</Button
      >{/if}
  {/each}
</div>
