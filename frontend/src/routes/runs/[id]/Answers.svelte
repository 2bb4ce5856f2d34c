<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';
  import Decision from './Decision.svelte';
  import type { Desk } from './desk.svelte.ts';
  import Reading from './Reading.svelte';
  import Recorded from './Recorded.svelte';

  /** The answers that a step takes, and what else may be done. */
  let { run, desk, step }: { run: Run; desk: Desk; step: Schemas['Instruction'] } = $props();
  const first = $derived(step.buttons[0]);
  const others = $derived(step.buttons.slice(1));
  const last = $derived(run.state!.last);
  /** With a wrench at hand the large button is its pull. */
  const pulls = $derived(desk.meter.fits && desk.meter.connected?.answers === 'pull');
  const before = $derived(last && last.label !== '-' ? last.label : 'none');
</script>

{#if run.may('answer')}
  {#if step.entry === 'decision'}
    <Decision {step} busy={run.busy} onanswer={desk.answer} />
  {:else if step.entry === 'reading'}
    {#if step.asks?.length}<Recorded {run} {step} bind:recorded={desk.recorded} />{/if}
    <Reading
      {step}
      busy={run.busy || !desk.complete}
      bind:reading={desk.reading}
      onanswer={desk.answer}
    />
  {:else if first}
    {#if step.asks?.length}<Recorded {run} {step} bind:recorded={desk.recorded} />{/if}
    {#if pulls}
      <!-- the wrench answers; by hand it is answered below it, on a phone once the wrench is put
           away -->
      <div
        class="grid gap-2 max-[500px]:hidden short:hidden"
        style:grid-template-columns="repeat({step.buttons.length}, 1fr)"
      >
        {#each step.buttons as button (button.answer)}
          <GloveButton
            look="plain"
            key={button === first ? '' : button.key}
            disabled={run.busy}
            onclick={() => desk.answer(button.answer)}>{button.label}</GloveButton
          >
        {/each}
      </div>
    {:else}
      <div class="grid gap-2.5 short:grid-cols-2 short:gap-1.5">
        <GloveButton
          look={pulls ? 'plain' : 'huge'}
          key={pulls ? '' : first.key}
          disabled={run.busy || desk.wait > 0 || !desk.complete}
          onclick={() => desk.answer(first.answer)}>{first.label}</GloveButton
        >
        {#if others.length}
          <div class="grid gap-2.5" style:grid-template-columns="repeat({others.length}, 1fr)">
            {#each others as button (button.answer)}
              <GloveButton
                key={button.key}
                disabled={run.busy}
                onclick={() => desk.answer(button.answer)}>{button.label}</GloveButton
              >
            {/each}
          </div>
        {/if}
      </div>
    {/if}
  {/if}
  <!-- on a phone what is needed now and then stands under More -->
  <div
    class="last grid grid-cols-4 gap-2.5 max-[500px]:grid-cols-2 short:grid-cols-2 short:gap-1.5"
  >
    <GloveButton look="quiet" key="w" onclick={() => (desk.dialog = 'problem')}
      >Report a problem</GloveButton
    >
    <GloveButton
      look="quiet"
      class="max-[500px]:hidden short:hidden"
      key="c"
      disabled={!run.may('correct')}
      onclick={() => (desk.dialog = 'correct')}
      >{sentence('run.correct_last', { bolt: before })}</GloveButton
    >
    <GloveButton
      look="quiet"
      class="max-[500px]:hidden short:hidden"
      key="a"
      disabled={!step.ahead.length}
      onclick={() => (desk.dialog = 'round')}>Whole round</GloveButton
    >
    <GloveButton look="quiet" key="t" onclick={() => (desk.dialog = 'more')}
      >More: note, change</GloveButton
    >
  </div>
{:else}
  <p class="soft text-lg">
    You are looking on: only a fitter or supervisor on the device that holds this run answers.
  </p>
{/if}
