<script lang="ts">
  import Alert from 'flowbite-svelte/Alert.svelte';

  /** The sentence of a call that failed; nothing is drawn where there is none. */
  let { text, class: more = '' }: { text: string; class?: string } = $props();
</script>

{#if text}<Alert color="red" border params={{ duration: 0 }} class="border-stop {more}"
    >{text}</Alert
  >{/if}
