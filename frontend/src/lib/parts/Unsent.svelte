<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { sentence } from '#lib/sentence.ts';
  import GloveButton from './GloveButton.svelte';

  /** Asks before somebody signs out whose taps are not sent yet. */
  let {
    open = $bindable(),
    count,
    onout,
  }: { open: boolean; count: number; onout: () => void } = $props();
</script>

<Modal bind:open title={sentence('run.unsent', { count })} size="sm">
  <p>
    They stay on this device under your name, and are sent when you sign in here again. Until then
    the record does not contain them.
  </p>
  <div class="grid gap-2 sm:grid-cols-2">
    <GloveButton onclick={() => (open = false)}>Stay signed in</GloveButton>
    <GloveButton look="quiet" onclick={onout}>Sign out, keep them here</GloveButton>
  </div>
</Modal>
