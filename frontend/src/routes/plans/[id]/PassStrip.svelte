<script lang="ts">
  import PassTape from '#lib/parts/PassTape/PassTape.svelte';
  import Word from '#lib/parts/Word.svelte';
  import type { Tape } from './tape.svelte.ts';

  /** All passes as one tape: dragged along, played, or gone by the arrow keys. */
  let { tape }: { tape: Tape } = $props();
</script>

<section class="border-t bg-sheet px-5 pt-1.5 pb-1" aria-label="Passes">
  <PassTape
    bands={tape.bands}
    at={tape.at}
    onmove={(step) => {
      tape.pause();
      tape.at = step;
    }}
    label="Pass tape, step"
  />
  <p class="mt-2 flex flex-wrap items-baseline gap-x-5 text-sm">
    <span class="soft">Drag the marker, or use the arrow keys: one pull.</span>
    <b class="ml-auto">{tape.said}</b>
    {#if tape.at !== null}<Word
        onclick={() => {
          tape.pause();
          tape.at = null;
        }}>Show the end</Word
      >{/if}
    <Word onclick={tape.play}>{tape.playing ? 'Pause' : 'Play steps'}</Word>
  </p>
</section>
