<script lang="ts">
  import { small } from '#lib/figures.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';
  import Answers from './Answers.svelte';
  import type { Desk } from './desk.svelte.ts';
  import Finish from './Finish.svelte';
  import GoTo from './GoTo.svelte';
  import Measure from './Measure.svelte';
  import Says from './Says.svelte';
  import Stopped from './Stopped.svelte';

  /**
   * The right half of the Run screen: what to do now, its answers, what waits meanwhile, what was
   * answered before.
   */
  let { run, desk }: { run: Run; desk: Desk } = $props();
  const now = $derived(run.state!);
  const step = $derived(run.step);
  const setting = $derived(now.clocks.find((c) => !c.set && c.deadline > desk.now));
  const takeOver = () => run.takeOver().catch((problem: Error) => (run.said = problem.message));
</script>

<div class="side grid content-start gap-3 max-[500px]:gap-2 short:gap-1.5">
  {#if setting && step}
    <p class="flex items-center gap-2 text-[1.05rem]">
      <svg
        width="15"
        height="15"
        aria-hidden="true"
        fill="none"
        stroke="var(--caution)"
        stroke-width="2"><circle cx="7.5" cy="7.5" r="6" /><path d="M7.5 4v4l3 2" /></svg
      ><Sentence
        key="run.sets_in"
        values={{ compound: setting.what.split(',')[0] ?? '', time: desk.left(setting.deadline) }}
      />
    </p>
  {/if}
  {#if run.stopped.length}
    {#each run.stopped as problem (problem.event)}
      <Stopped {run} {problem} onwrench={() => (desk.dialog = 'wrench')} />
    {/each}
  {:else if step}
    {#if desk.goTo}
      <GoTo {step} {desk} />
    {:else}
      <Says {run} {desk} {step} />
      {#if run.may('answer')}<Measure meter={desk.meter} />{/if}
      <Answers {run} {desk} {step} />
    {/if}
  {:else if run.needsServer}
    <div class="grid gap-2" role="status">
      <h1>{run.offline ? 'No connection' : 'One moment'}</h1>
      <p class="text-lg">
        {run.offline
          ? 'What comes next is decided by the server. Everything answered so far is saved here and is sent as soon as the connection is back.'
          : 'Sending …'}
      </p>
    </div>
  {:else}
    <Finish {run} {desk} />
  {/if}
  {#each now.waiting as wait (wait.step)}
    <p class="soft text-lg">
      {sentence('run.waiting', {
        place: wait.position || 'none',
        what: wait.text,
        left: wait.ready_at ? desk.left(wait.ready_at) : 'none',
      })}
    </p>
  {/each}
  {#if run.lost && (run.view!.head.under_way || run.may('take_over'))}
    <Notice>
      <p>
        {sentence('run.other_device', { person: run.view!.lease_person ?? '' })}
      </p>
      {#if run.may('take_over')}<GloveButton look="quiet" class="mt-2" onclick={takeOver}
          >Continue on this device</GloveButton
        >{/if}
    </Notice>
  {/if}
  {#if now.recent.length && step}
    <p class="soft text-[1.05rem] max-[900px]:hidden">
      before: {#each now.recent as one, i (one.event)}{i ? ' · ' : ''}<b
          >{one.label === '-' ? '' : one.label}</b
        >
        {small(one.text)}{/each}
    </p>
  {/if}
</div>
