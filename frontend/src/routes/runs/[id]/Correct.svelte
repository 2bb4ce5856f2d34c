<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte';
  import Radio from 'flowbite-svelte/Radio.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import type { Run } from '#lib/run.svelte.ts';

  /** A correcting entry: nothing is edited, the new entry points to the old. */
  let { run, last, onclose }: { run: Run; last: Schemas['LastAnswer']; onclose: () => void } =
    $props();
  let open = $state(true);
  let picked = $state.raw<Schemas['LastAnswer'] | null>(null);
  const chosen = $derived(picked ?? last);
  $effect(() => {
    if (!open) onclose();
  });

  async function correct(answer: Record<string, unknown> | null) {
    open = false;
    await run.send('correct', chosen.step, { voids: chosen.event, answer });
  }
</script>

<Modal bind:open title="Correct an answer" size="md">
  <p>The old entry stays in the record; the correction is a new one that points to it.</p>
  <fieldset class="grid gap-2">
    <legend class="soft text-sm">Answer to correct</legend>
    {#each run.state?.recent ?? [] as one (one.event)}
      <Radio
        name="which"
        value={one.event}
        group={chosen.event}
        onchange={() => (picked = one)}
        classes={{
          label:
            'flex min-h-[56px] items-center gap-3 rounded border border-hairline px-3 text-lg text-ink',
        }}
      >
        <span class="font-bold">{one.what}</span>
        <span class="soft">{one.text}</span>
      </Radio>
    {/each}
  </fieldset>
  <div class="grid gap-2 sm:grid-cols-3">
    {#each chosen.choices as choice (choice.answer)}
      <GloveButton look="quiet" onclick={() => correct({ answer: choice.answer })}
        >{choice.label}</GloveButton
      >
    {/each}
    <GloveButton look="quiet" onclick={() => correct(null)}>Repeat step</GloveButton>
  </div>
</Modal>
