<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import type { Run } from '#lib/run.svelte.ts';

  /** What is needed now and then: note, photo, a wish to the planner, skip, do a stage again, end the run. */
  interface Props {
    run: Run;
    step: Schemas['Instruction'] | null;
    onopen: (which: 'note' | 'suggest') => void;
    onclose: () => void;
  }
  let { run, step, onopen, onclose }: Props = $props();
  let open = $state(true);
  let asked = $state<'' | 'skip' | 'redo' | 'abandon'>('');
  let reason = $state('');
  let stage = $state('');
  let camera = $state<HTMLInputElement>();
  const uid = $props.id();
  $effect(() => {
    if (!open) onclose();
  });

  async function photo() {
    const file = camera?.files?.[0];
    open = false;
    if (file) await run.photo(step?.step ?? '-', file, '');
  }
  async function send(event: Event) {
    event.preventDefault();
    const words = reason.trim();
    open = false;
    if (asked === 'skip' && step) await run.send('answer', step.step, { answer: 'skip', reason: words });
    else if (asked === 'redo' && step) await run.send('redo', step.step, { stage: stage || step.stage_id, reason: words });
    else if (asked === 'abandon') await run.send('abandon', '-', { reason: words });
  }
  const WORDS = { skip: 'Skip this step', redo: 'Do a stage again', abandon: 'End this run before its last step' };
</script>

<Modal bind:open title="More" size="md" class="!bg-sheet !text-ink">
  {#if !asked}
    <div class="grid gap-2 sm:grid-cols-2">
      <button class="act !min-h-16" onclick={() => onopen('note')}>Add a note</button>
      <button class="act !min-h-16" onclick={() => camera?.click()}>Take a photo</button>
      <button class="act !min-h-16" onclick={() => onopen('suggest')}>Change this step: to the planner</button>
      <button class="act !min-h-16" disabled={!step?.can_skip} onclick={() => (asked = 'skip')}>Skip this step …</button>
      <button class="act !min-h-16" disabled={!step?.can_redo} onclick={() => (asked = 'redo')}>Do a stage again …</button>
      <button class="act !min-h-16" onclick={() => (asked = 'abandon')}>End the run early …</button>
    </div>
    <input
      bind:this={camera}
      type="file"
      accept="image/*"
      capture="environment"
      class="hidden"
      aria-label="Photo"
      onchange={photo}
    />
  {:else}
    <form class="grid gap-3" onsubmit={send}>
      <h2>{WORDS[asked]}</h2>
      {#if asked === 'redo'}
        <label class="grid gap-1 text-sm text-soft" for="{uid}-s"
          >From which stage on
          <select id="{uid}-s" class="field !min-h-14" bind:value={stage}>
            {#each run.view?.stages ?? [] as one (one.id)}<option value={one.id} selected={one.id === step?.stage_id}
                >{one.name}</option
              >{/each}
          </select></label
        >
      {/if}
      <label class="grid gap-1 text-sm text-soft" for="{uid}-r"
        >Why
        <input id="{uid}-r" class="field !min-h-14 !text-lg" bind:value={reason} maxlength="1000" autocomplete="off" /></label
      >
      <button class="act main !min-h-16" disabled={!reason.trim()}>Keep</button>
    </form>
  {/if}
</Modal>
