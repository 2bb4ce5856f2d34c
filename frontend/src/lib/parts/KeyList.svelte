<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { help } from './help.svelte';

  /** The keys of the screen, as a list. */
</script>

<Modal bind:open={help.open} title="Keys on this screen" size="xs">
  <dl class="grid grid-cols-[auto_1fr] gap-x-4 gap-y-2">
    {#each help.keys as entry (`${entry.alt}${entry.key}`)}
      <dt><kbd class="keycap">{entry.alt ? 'Alt ' : ''}{entry.key}</kbd></dt>
      <dd>{entry.words}</dd>
    {/each}
    <dt><kbd class="keycap">s</kbd></dt>
    <dd>quick sums</dd>
    <dt><kbd class="keycap">f</kbd></dt>
    <dd>search everywhere</dd>
    <dt><kbd class="keycap">?</kbd></dt>
    <dd>this list</dd>
  </dl>
</Modal>
