<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { cues } from '#lib/cues.svelte.ts';
  import FilePick from '#lib/parts/FilePick.svelte';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import type { Run } from '#lib/run.svelte.ts';

  /**
   * What is needed now and then: note, photo, a wish to the planner, skip, do a stage again, end
   * the run.
   */
  interface Props {
    run: Run;
    step: Schemas['Instruction'] | null;
    onopen: (which: 'note' | 'suggest' | 'correct' | 'round') => void;
    onwrench: () => void;
    ondevice: () => void;
    onhand: () => void;
    onclose: () => void;
  }
  let { run, step, onopen, onwrench, ondevice, onhand, onclose }: Props = $props();
  let open = $state(true);
  let asked = $state<'' | 'skip' | 'redo' | 'abandon'>('');
  let reason = $state('');
  let stage = $state('');
  const uid = $props.id();
  const stages = $derived((run.view?.stages ?? []).map((s): [string, string] => [s.id, s.name]));
  $effect(() => {
    if (!open) onclose();
  });

  async function photo(file: File) {
    open = false;
    await run.photo(step?.step ?? '-', file, '');
  }
  async function send(event: Event) {
    event.preventDefault();
    const words = reason.trim();
    open = false;
    if (asked === 'skip' && step)
      await run.send('answer', step.step, { answer: 'skip', reason: words });
    else if (asked === 'redo')
      await run.send('redo', step?.step ?? '-', {
        stage: stage || (step?.stage_id ?? stages[0]![0]),
        reason: words,
      });
    else if (asked === 'abandon') await run.send('abandon', '-', { reason: words });
  }
  const WORDS = {
    skip: 'Skip step',
    redo: 'Do a stage again',
    abandon: 'End this run before its last step',
  };
</script>

<Modal bind:open title="More" size="md">
  {#if !asked}
    <div class="grid gap-2 sm:grid-cols-2">
      <GloveButton look="quiet" onclick={() => onopen('note')}>Add a note</GloveButton>
      <GloveButton look="quiet" disabled={!run.may('correct')} onclick={() => onopen('correct')}
        >Correct an answer</GloveButton
      >
      <GloveButton look="quiet" disabled={!step?.ahead.length} onclick={() => onopen('round')}
        >Confirm the whole round</GloveButton
      >
      {#if run.may('photo')}<FilePick
          words="Take a photo"
          accept="image/*"
          camera
          onpick={photo}
          class="flex min-h-[56px] items-center rounded-[6px] border-2 border-hairline px-4 font-medium hover:bg-tint"
        />{/if}
      <GloveButton look="quiet" onclick={() => onopen('suggest')}
        >Suggest a change to the planner</GloveButton
      >
      <GloveButton look="quiet" disabled={!run.may('tool')} onclick={onwrench}
        >Change wrench …</GloveButton
      >
      <GloveButton look="quiet" onclick={ondevice}>Connect a wrench or gauge …</GloveButton>
      <GloveButton look="quiet" disabled={run.unsent.length > 0} onclick={onhand}
        >Change user …</GloveButton
      >
      <GloveButton look="quiet" disabled={!run.may('skip')} onclick={() => (asked = 'skip')}
        >Skip step …</GloveButton
      >
      <GloveButton look="quiet" disabled={!run.may('redo')} onclick={() => (asked = 'redo')}
        >Repeat stage …</GloveButton
      >
      <GloveButton look="quiet" onclick={() => cues.toggle('sound')}
        >{cues.sound ? 'Tones and vibration off' : 'Tones and vibration on'}</GloveButton
      >
      <GloveButton look="quiet" onclick={() => cues.toggle('speech')}
        >{cues.speech ? 'Speech off' : 'Speech on'}</GloveButton
      >
      <GloveButton look="quiet" disabled={!run.may('abandon')} onclick={() => (asked = 'abandon')}
        >End the run early …</GloveButton
      >
    </div>
  {:else}
    <form class="grid gap-3" onsubmit={send}>
      <h2>{WORDS[asked]}</h2>
      {#if asked === 'redo'}
        <QuantityField
          label="From stage"
          value={stage || (step?.stage_id ?? stages[0]?.[0] ?? '')}
          choices={stages}
          large
          onchange={(id) => (stage = id)}
        />
      {/if}
      <Label for="{uid}-r">Why</Label>
      <Input
        id="{uid}-r"
        class="min-h-[56px] text-lg"
        bind:value={reason}
        maxlength={1000}
        autocomplete="off"
      />
      <GloveButton type="submit" look="main" disabled={!reason.trim()}>Save</GloveButton>
    </form>
  {/if}
</Modal>
