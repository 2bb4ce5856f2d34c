<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';

  /**
   * What was done about something that failed; what needs a reason asks for it, and a supervisor
   * accepts it later.
   */
  interface Props {
    step: Schemas['Instruction'];
    busy: boolean;
    onanswer: (answer: string, more?: Record<string, unknown>) => void;
  }
  let { step, busy, onanswer }: Props = $props();
  const uid = $props.id();
  let reason = $state('');
  const reasoned = $derived(step.buttons.filter((b) => b.reason));
  const plain = $derived(step.buttons.filter((b) => !b.reason));
  /** One of many, as a bolt among all: smaller, several in a row. */
  const many = $derived(plain.length > 6);
</script>

<div class="grid gap-2 {many ? 'grid-cols-2 sm:grid-cols-4' : 'sm:grid-cols-2'}">
  {#each plain as button (button.answer)}
    <GloveButton
      class={many ? 'min-h-[60px] text-lg' : 'min-h-[80px] text-xl'}
      key={button.key}
      disabled={busy}
      onclick={() => onanswer(button.answer)}>{button.label}</GloveButton
    >
  {/each}
</div>
{#if reasoned.length}
  <div class="grid gap-2">
    <Label for="{uid}-r" class="text-lg">Reason, or what was done</Label>
    <Input
      id="{uid}-r"
      class="min-h-[56px] text-lg"
      bind:value={reason}
      maxlength={1000}
      autocomplete="off"
    />
    <div class="grid gap-2 sm:grid-cols-2">
      {#each reasoned as button (button.answer)}
        <GloveButton
          look="quiet"
          class="min-h-[64px] text-lg"
          disabled={busy || !reason.trim()}
          onclick={() => onanswer(button.answer, { reason: reason.trim() })}
          >{button.label}</GloveButton
        >
      {/each}
    </div>
  </div>
{/if}
