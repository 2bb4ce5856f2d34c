<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';

  /** What was done about something that failed; leaving it as it is needs a reason, and later a supervisor. */
  interface Props {
    step: Schemas['Instruction'];
    busy: boolean;
    onanswer: (answer: string, more?: Record<string, unknown>) => void;
  }
  let { step, busy, onanswer }: Props = $props();
  const uid = $props.id();
  let reason = $state('');
  const plain = $derived(step.buttons.filter((b) => b.answer !== 'accept'));
  const accept = $derived(step.buttons.find((b) => b.answer === 'accept'));
</script>

<div class="grid gap-2 sm:grid-cols-2">
  {#each plain as button (button.answer)}
    <button class="act !min-h-20 !justify-between !text-xl" disabled={busy} onclick={() => onanswer(button.answer)}
      ><span>{button.label}</span><kbd class="soft text-sm">{button.key}</kbd></button
    >
  {/each}
</div>
{#if accept}
  <div class="grid gap-2">
    <label for="{uid}-r" class="text-lg">Or leave it as it is, because</label>
    <div class="flex gap-2">
      <input id="{uid}-r" class="field !min-h-14 !text-lg" bind:value={reason} maxlength="1000" autocomplete="off" />
      <button
        class="act !min-h-14 whitespace-nowrap"
        disabled={busy || !reason.trim()}
        onclick={() => onanswer('accept', { reason: reason.trim() })}>Leave it</button
      >
    </div>
  </div>
{/if}
