<script lang="ts">
  import { small } from '#lib/figures.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import Answers from './Answers.svelte';
  import type { Desk } from './desk.svelte.ts';
  import Finish from './Finish.svelte';
  import Measure from './Measure.svelte';
  import Says from './Says.svelte';
  import Stopped from './Stopped.svelte';

  /** The right half of the Run screen: what to do now, its answers, what waits meanwhile, what was answered before. */
  let { run, desk }: { run: Run; desk: Desk } = $props();
  const now = $derived(run.state!);
  const step = $derived(run.step);
  const setting = $derived(now.clocks.find((c) => !c.set && c.deadline > desk.now));
  const takeOver = () => run.takeOver().catch((problem: Error) => (run.said = problem.message));
</script>

<div class="side grid content-start gap-3 max-[500px]:gap-2 short:gap-1.5">
  {#if setting && step}
    <p class="flex items-center gap-2 text-[1.05rem]">
      <svg width="15" height="15" aria-hidden="true" fill="none" stroke="var(--caution)" stroke-width="2"
        ><circle cx="7.5" cy="7.5" r="6" /><path d="M7.5 4v4l3 2" /></svg
      >{setting.what.split(',')[0]} sets in <b>{desk.left(setting.deadline)}</b>
    </p>
  {/if}
  {#if run.stopped.length}
    {#each run.stopped as problem (problem.event)}
      <Stopped {run} {problem} onwrench={() => (desk.dialog = 'wrench')} />
    {/each}
  {:else if step}
    <Says {run} {desk} {step} />
    {#if run.may('answer')}<Measure meter={desk.meter} />{/if}
    <Answers {run} {desk} {step} />
  {:else if run.needsServer}
    <div class="grid gap-2" role="status">
      <h1>{run.offline ? 'No connection' : 'One moment'}</h1>
      <p class="text-lg">
        {run.offline
          ? 'What comes next is decided by the server. Everything answered so far is kept here and is sent as soon as the connection is back.'
          : 'Sending …'}
      </p>
    </div>
  {:else}
    <Finish {run} {desk} />
  {/if}
  {#each now.waiting as wait (wait.step)}
    <p class="soft text-lg">
      Waiting meanwhile{wait.position ? `, ${wait.position}` : ''}: {wait.text}{wait.ready_at
        ? `, ${desk.left(wait.ready_at)} left`
        : ''}
    </p>
  {/each}
  {#if run.lost}
    <Notice>
      <p>
        This run is open on another device ({run.view!.lease_person}). Taps there that are not saved yet would become conflicts.
      </p>
      {#if run.may('take_over')}<GloveButton look="quiet" class="mt-2" onclick={takeOver}>Take over here</GloveButton>{/if}
    </Notice>
  {/if}
  {#if now.recent.length && step}
    <p class="soft text-[1.05rem] max-[900px]:hidden">
      before: {#each now.recent as one, i (one.event)}{i ? ' · ' : ''}<b>{one.label === '-' ? '' : one.label}</b>
        {small(one.text)}{/each}
    </p>
  {/if}
</div>
