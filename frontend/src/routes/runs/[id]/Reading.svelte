<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';

  /** A reading typed with one hand: a figure alone takes the unit of the limit. */
  interface Props {
    step: Schemas['Instruction'];
    busy: boolean;
    reading: string;
    onanswer: (answer: string, more?: Record<string, unknown>) => void;
  }
  let { step, busy, reading = $bindable(), onanswer }: Props = $props();
  const uid = $props.id();
  const typed = $derived(reading.trim());
  const value = $derived(/^-?[\d.,\s/-]+$/.test(typed) && step.unit ? `${typed} ${step.unit}` : typed);

  function enter(event: Event) {
    event.preventDefault();
    onanswer('value', { value });
  }
</script>

<form class="grid gap-2" onsubmit={enter}>
  <label for="reading" class="text-lg"
    >{step.kind === 'gap' ? 'Gap here' : 'Reading'}{step.limit_text ? `, ${step.limit_text}` : ''}</label
  >
  <div class="flex gap-2">
    <input
      id="reading"
      class="field !min-h-16 !text-3xl"
      inputmode="decimal"
      autocomplete="off"
      bind:value={reading}
      placeholder={step.unit ?? 'mm'}
      aria-describedby="{uid}-u"
    />
    <button class="act main !min-h-16 !text-xl" disabled={busy || !typed}>Enter</button>
  </div>
  <p id="{uid}-u" class="soft">A figure alone is taken as {step.unit ?? 'mm'}.</p>
</form>
{#if step.kind === 'gap'}
  <button class="act !min-h-16 !text-lg" disabled={busy} onclick={() => onanswer('cap', typed ? { value } : {})}
    >The cap clicked first{typed ? ` (gap ${value})` : ''}</button
  >
{/if}
