<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import type { Run } from '#lib/run.svelte.ts';

  /** A correcting entry: nothing is edited, the new entry points to the old. */
  let { run, last, onclose }: { run: Run; last: Schemas['LastAnswer']; onclose: () => void } = $props();
  let open = $state(true);
  let picked = $state.raw<Schemas['LastAnswer'] | null>(null);
  const chosen = $derived(picked ?? last);
  $effect(() => {
    if (!open) onclose();
  });
  const PULLS: [string, string][] = [
    ['turned', 'It turned'],
    ['did_not_turn', 'It did not turn'],
  ];
  const isPull = $derived(['turned', 'did_not_turn', 'not_sure'].includes(chosen.answer));

  async function correct(answer: Record<string, unknown> | null) {
    open = false;
    await run.send('correct', chosen.step, { voids: chosen.event, answer });
  }
</script>

<Modal bind:open title="Correct an answer" size="md" class="!bg-sheet !text-ink">
  <p>The old entry stays in the record; the correction is a new one that points to it.</p>
  <fieldset class="grid gap-2">
    <legend class="soft text-sm">Which answer</legend>
    {#each run.state?.recent ?? [] as one (one.event)}
      <label class="flex min-h-14 items-center gap-3 rounded border px-3 text-lg">
        <input type="radio" name="which" checked={chosen.event === one.event} onchange={() => (picked = one)} />
        <span class="font-bold">{one.label === '-' ? one.step.split('/').slice(1, 3).join(' › ') : `bolt ${one.label}`}</span>
        <span class="soft">{one.text}</span>
      </label>
    {/each}
  </fieldset>
  <div class="grid gap-2 sm:grid-cols-3">
    {#if isPull}
      {#each PULLS.filter(([a]) => a !== chosen.answer) as [answer, words] (answer)}
        <button class="act !min-h-14" onclick={() => correct({ answer })}>{words}</button>
      {/each}
    {/if}
    <button class="act !min-h-14" onclick={() => correct(null)}>Do it again</button>
  </div>
</Modal>
