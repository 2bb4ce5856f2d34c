<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import type { Run } from '#lib/run.svelte.ts';

  /** Words from the fitter: a problem (a deviation to be accepted), a note, or a wish to the planner. */
  interface Props {
    kind: 'problem' | 'note' | 'suggest';
    run: Run;
    step: Schemas['Instruction'] | null;
    onclose: () => void;
  }
  let { kind, run, step, onclose }: Props = $props();
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
  const QUICK = ['Thread or seat is damaged', 'The wrench may be wrong', 'A part is missing', 'This is not safe'];

  async function send(event: Event) {
    event.preventDefault();
    open = false;
    await run.send(kind, step?.step ?? '-', { text: text.trim() });
  }
  /** What is wrong with this bolt is an answer to its step: the run says what to do next. */
  async function wrong(answer: string) {
    open = false;
    if (step) await run.send('answer', step.step, { answer });
  }
</script>

<Modal bind:open title={TITLES[kind]} size="md" class="!bg-sheet !text-ink">
  <p>{WORDS[kind]}</p>
  {#if kind === 'problem'}
    {#if step?.wrong.length}
      <p class="font-semibold">This bolt{step.label ? ` (${step.label})` : ''}:</p>
      <div class="grid gap-2 sm:grid-cols-2">
        {#each step.wrong as button (button.answer)}<button class="act !min-h-16 !text-lg" onclick={() => wrong(button.answer)}
            >{button.label}</button
          >{/each}
      </div>
      <p class="font-semibold">Something else:</p>
    {/if}
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
