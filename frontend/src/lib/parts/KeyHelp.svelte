<script lang="ts">
  import { typing } from '../keys';
  import { help } from './help.svelte';

  /** The list of keys, by `?`; loaded when it is wanted. */
  function onkeydown(event: KeyboardEvent) {
    if (event.key === '?' && !typing(event)) {
      event.preventDefault();
      help.open = !help.open;
    }
  }
</script>

<svelte:window {onkeydown} />
{#if help.open}
  {#await import('./KeyList.svelte') then { default: KeyList }}<KeyList />{/await}
{/if}
