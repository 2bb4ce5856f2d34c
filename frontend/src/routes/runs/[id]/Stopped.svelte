<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { clock } from '#lib/figures.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import type { Run } from '#lib/run.svelte.ts';

  /** A problem that stops the run: nothing goes on before somebody says what was done about it. */
  let { run, problem, onwrench }: { run: Run; problem: Schemas['Stopped']; onwrench: () => void } =
    $props();
  let reason = $state('');
  const uid = $props.id();
  const settle = (event: Event) => {
    event.preventDefault();
    void run.send('resume', '-', { problem: problem.event, reason: reason.trim() });
  };
</script>

<div class="grid gap-3 rounded border-2 border-stop bg-stop-bg p-4" role="alert">
  <h1 class="flex items-center gap-2"><Mark severity="stop" />Stopped</h1>
  <p class="text-2xl leading-tight font-bold">{problem.text}</p>
  <p class="soft">{problem.person}, {clock(problem.at)}</p>
  <p class="text-lg">{problem.advice}</p>
  {#if run.may('resume')}
    {#if problem.about === 'wrench' && run.may('tool')}
      <GloveButton onclick={onwrench}>Change wrench</GloveButton>
    {/if}
    <form class="grid gap-2" onsubmit={settle}>
      <Label for="{uid}-r" class="text-lg">{problem.ask}</Label>
      <Input
        id="{uid}-r"
        class="min-h-[56px] text-lg"
        bind:value={reason}
        maxlength={1000}
        autocomplete="off"
      />
      <GloveButton type="submit" look="main" disabled={!reason.trim() || run.busy}
        >Settled: continue the work</GloveButton
      >
    </form>
  {/if}
</div>
