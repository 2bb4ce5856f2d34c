<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';

  /** One answer that was kept aside; it is settled by name, with a reason of its own. */
  let { run, conflict }: { run: Run; conflict: Schemas['Conflict'] } = $props();
  let reason = $state('');
  const uid = $props.id();
  const settle = (take: boolean) =>
    run.send('settle', '-', { event: conflict.event, take, reason: reason.trim() });
</script>

<div class="rounded border p-3 {conflict.settled ? '' : 'border-caution bg-caution-bg'}">
  <p class="text-lg">
    {sentence('run.conflict', {
      person: conflict.person,
      step: conflict.step,
      text: conflict.text,
    })}
  </p>
  {#if conflict.settled}
    <p class="soft">
      {sentence('run.settled', { person: conflict.settled, reason: conflict.reason })}
    </p>
  {:else if run.may('settle')}
    <Label for="{uid}-r" class="mt-2 text-sm">What is true, and why</Label>
    <Input id="{uid}-r" class="min-h-[56px]" bind:value={reason} maxlength={1000} />
    <div class="mt-2 grid gap-2 sm:grid-cols-2">
      <GloveButton
        look="quiet"
        class="border-ink"
        disabled={!reason.trim()}
        onclick={() => settle(true)}>Accept answer</GloveButton
      >
      <GloveButton
        look="quiet"
        class="border-ink"
        disabled={!reason.trim()}
        onclick={() => settle(false)}>Discard</GloveButton
      >
    </div>
  {:else}<p class="soft">A supervisor settles it.</p>{/if}
</div>
