<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';

  /** What was done about something that failed; what needs a reason asks for it, and a supervisor accepts it later. */
  interface Props {
    step: Schemas['Instruction'];
    busy: boolean;
    onanswer: (answer: string, more?: Record<string, unknown>) => void;
  }
  let { step, busy, onanswer }: Props = $props();
  const uid = $props.id();
  let reason = $state('');
</script>

<div class="grid gap-2 sm:grid-cols-2">
  {#each step.buttons.filter((b) => !b.reason) as button (button.answer)}
    <GloveButton class="min-h-[80px] text-xl" key={button.key} disabled={busy} onclick={() => onanswer(button.answer)}
      >{button.label}</GloveButton
    >
  {/each}
</div>
{#each step.buttons.filter((b) => b.reason) as button (button.answer)}
  <div class="grid gap-2">
    <Label for="{uid}-r" class="text-lg">Or leave it as it is, because</Label>
    <div class="grid grid-cols-[1fr_auto] gap-2">
      <Input id="{uid}-r" class="min-h-[56px] text-lg" bind:value={reason} maxlength={1000} autocomplete="off" />
      <GloveButton
        look="quiet"
        class="whitespace-nowrap"
        disabled={busy || !reason.trim()}
        onclick={() => onanswer(button.answer, { reason: reason.trim() })}>Leave it</GloveButton
      >
    </div>
  </div>
{/each}
