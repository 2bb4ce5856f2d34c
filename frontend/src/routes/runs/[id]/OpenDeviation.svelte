<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';

  /** One deviation at the end of a run; it is accepted by name, with a reason of its own. */
  let { run, deviation }: { run: Run; deviation: Schemas['Deviation'] } = $props();
  let reason = $state('');
  const uid = $props.id();
  const accept = () =>
    run.send('accept', deviation.step, { deviation: deviation.id, reason: reason.trim() });
</script>

<div class="rounded border p-3 {deviation.accepted_by ? '' : 'border-stop bg-stop-bg'}">
  <p class="text-lg">{deviation.text}</p>
  {#if deviation.accepted_by}
    <p class="soft">
      {sentence('run.accepted', { person: deviation.accepted_by, reason: deviation.reason })}
    </p>
  {:else}
    {#if deviation.advice}<p class="soft">{deviation.advice}</p>{/if}
    {#if run.may('accept')}
      <Label for="{uid}-r" class="mt-2 text-sm">Reason to accept</Label>
      <Input id="{uid}-r" class="min-h-[56px]" bind:value={reason} maxlength={1000} />
      <GloveButton
        look="quiet"
        class="mt-2 border-ink"
        disabled={!reason.trim() || run.busy}
        onclick={accept}>Accept this deviation</GloveButton
      >
    {:else if !deviation.advice}
      <p class="soft">A supervisor accepts it by name, with a reason.</p>
    {/if}
  {/if}
</div>
