<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte';
  import type { Run } from '#lib/run.svelte.ts';

  /** Words from the fitter: a problem (a deviation to be accepted), a note, or a wish to the planner. */
  let { kind, run, step, onclose }: { kind: 'problem' | 'note' | 'suggest'; run: Run; step: string; onclose: () => void } = $props();
  let open = $state(true);
  let text = $state('');
  const uid = $props.id();
  $effect(() => {
    if (!open) onclose();
  });
  const TITLES = { problem: 'Something is wrong', note: 'Add a note', suggest: 'Change this step' };
  const WORDS = {
    problem: 'Stop pulling. What you write becomes a deviation that a supervisor has to accept by name.',
    note: 'Kept with the step.',
    suggest: 'Goes to the planner with this step.',
  };
  const QUICK = ['The nut does not run on by hand', 'It turns on and on', 'Thread or seat is damaged', 'Wrench may be wrong'];

  async function send(event: Event) {
    event.preventDefault();
    open = false;
    await run.send(kind, step, { text: text.trim() });
  }
</script>

<Modal bind:open title={TITLES[kind]} size="md" class="!bg-sheet !text-ink">
  <p>{WORDS[kind]}</p>
  {#if kind === 'problem'}
    <div class="grid gap-2 sm:grid-cols-2">
      {#each QUICK as words (words)}<button class="act !min-h-14" onclick={() => (text = words)}>{words}</button>{/each}
    </div>
  {/if}
  <form onsubmit={send} class="grid gap-3">
    <label for="{uid}-t" class="text-sm text-soft">In your words</label>
    <textarea id="{uid}-t" class="field" rows="3" maxlength="1000" bind:value={text}></textarea>
    <button class="act main !min-h-14" disabled={!text.trim()}>Keep</button>
  </form>
</Modal>
