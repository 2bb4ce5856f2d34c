<script lang="ts">
  import Label from 'flowbite-svelte/Label.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import Textarea from 'flowbite-svelte/Textarea.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';

  /**
   * Words from the fitter: a problem (a deviation to be accepted), a note, or a wish to the
   * planner.
   */
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
  const TITLES = { problem: 'Report a problem', note: 'Add a note', suggest: 'Change this step' };
  const WORDS = {
    problem:
      'Stop pulling. What you write becomes a deviation that a supervisor has to accept by name.',
    note: 'Saved with the step.',
    suggest: 'Goes to the planner with this step.',
  };
  /** Words at hand, with what they are about: the run stops at some of them until it is settled. */
  const QUICK: [string, string][] = [
    ['This is not safe', 'unsafe'],
    ['The wrench may be wrong', 'wrench'],
    ['Thread or seat is damaged', 'other'],
    ['A part is missing', 'other'],
  ];
  let about = $state('other');

  async function send(event: Event) {
    event.preventDefault();
    open = false;
    await run.send(kind, step?.step ?? '-', {
      text: text.trim(),
      ...(kind === 'problem' ? { about } : {}),
    });
  }
  /** What is wrong with this bolt is an answer to its step: the run says what to do next. */
  async function wrong(answer: string) {
    open = false;
    if (step) await run.send('answer', step.step, { answer });
  }
</script>

<Modal bind:open title={TITLES[kind]} size="md">
  <p>{WORDS[kind]}</p>
  {#if kind === 'problem'}
    {#if step?.wrong.length && run.may('answer')}
      <p class="font-semibold">{sentence('run.this_bolt', { bolt: step.label || 'none' })}</p>
      <div class="grid gap-2 sm:grid-cols-2">
        {#each step.wrong as button (button.answer)}<GloveButton
            onclick={() => wrong(button.answer)}>{button.label}</GloveButton
          >{/each}
      </div>
      <p class="font-semibold">Something else:</p>
    {/if}
    <div class="grid gap-2 sm:grid-cols-2">
      {#each QUICK as [words, which] (words)}
        <GloveButton
          look="quiet"
          class={text && about === which && text.startsWith(words) ? 'border-ink font-bold' : ''}
          onclick={() => ((about = which), (text = words))}>{words}</GloveButton
        >
      {/each}
    </div>
    {#if about !== 'other'}<p class="font-semibold text-stop">
        The run stops until it is settled.
      </p>{/if}
  {/if}
  <form onsubmit={send} class="grid gap-3">
    <Label for="{uid}-t">In your words</Label>
    <Textarea id="{uid}-t" class="w-full" rows={3} maxlength={1000} bind:value={text} />
    <GloveButton type="submit" look="main" disabled={!text.trim()}
      >{kind === 'problem' && about !== 'other' ? 'Stop the run' : 'Save'}</GloveButton
    >
  </form>
</Modal>
