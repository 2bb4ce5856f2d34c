<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { MediaQuery } from 'svelte/reactivity';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import { sentence } from '#lib/sentence.ts';
  import NumberPad from './NumberPad.svelte';

  /** A reading typed with one hand: a figure alone takes the unit that the step asks in. */
  interface Props {
    step: Schemas['Instruction'];
    busy: boolean;
    reading: string;
    onanswer: (answer: string, more?: Record<string, unknown>) => void;
  }
  let { step, busy, reading = $bindable(), onanswer }: Props = $props();
  const uid = $props.id();
  /** A thumb instead of a mouse: the keys are ours, and the keyboard of the device stays away. */
  const coarse = new MediaQuery('(pointer: coarse)');
  const typed = $derived(reading.trim());
  const value = $derived(
    /^-?[\d.,\s/-]+$/.test(typed) && step.unit ? `${typed} ${step.unit}` : typed,
  );
  const [first, others] = $derived([step.buttons[0]!, step.buttons.slice(1)]);

  function enter(event: Event) {
    event.preventDefault();
    onanswer(first.answer, { value });
  }
</script>

<form class="grid gap-2" onsubmit={enter}>
  <Label for="reading" class="text-lg"
    >{first.label}{step.limit_text ? `, ${step.limit_text}` : ''}</Label
  >
  <div class="grid grid-cols-[1fr_auto] gap-2">
    <Input
      id="reading"
      class="min-h-[64px] text-3xl"
      inputmode={coarse.current ? 'none' : 'decimal'}
      autocomplete="off"
      bind:value={reading}
      placeholder={step.unit ?? ''}
      aria-describedby="{uid}-u"
    />
    <GloveButton type="submit" look="main" disabled={busy || !typed}>Enter</GloveButton>
  </div>
  <NumberPad bind:value={reading} />
  <p id="{uid}-u" class="soft pointer-coarse:max-[500px]:hidden">
    {step.unit
      ? sentence('run.figure_alone', { unit: step.unit })
      : 'Write the unit behind the figure.'}
  </p>
</form>
{#each others as button (button.answer)}
  <GloveButton
    disabled={busy}
    key={button.key}
    onclick={() => onanswer(button.answer, typed ? { value } : {})}
    >{button.label}{typed ? ` (${value})` : ''}</GloveButton
  >
{/each}
