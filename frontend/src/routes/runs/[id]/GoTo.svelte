<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import { sentence } from '#lib/sentence.ts';
  import type { Desk } from './desk.svelte.ts';

  /** Another position comes first: nothing is answered there before somebody is there. */
  let { step, desk }: { step: Schemas['Instruction']; desk: Desk } = $props();
</script>

<div class="grid gap-4" aria-live="polite">
  <p class="soft text-lg">{step.stage}</p>
  <h1 class="go">{step.go_to}</h1>
  <p class="text-xl">The next step is at another position of this machine.</p>
  <GloveButton look="huge" key="Space" onclick={desk.there}
    >{sentence('run.i_am_at', { position: step.position })}</GloveButton
  >
  <div class="last grid grid-cols-2 gap-2.5">
    <GloveButton look="quiet" key="w" onclick={() => (desk.dialog = 'problem')}
      >Report a problem</GloveButton
    >
    <GloveButton look="quiet" key="t" onclick={() => (desk.dialog = 'more')}
      >More: note, change</GloveButton
    >
  </div>
</div>

<style>
  .go {
    font-size: clamp(2rem, 5vw, 3.6rem);
    font-weight: 800;
    line-height: 1.1;
  }
</style>
