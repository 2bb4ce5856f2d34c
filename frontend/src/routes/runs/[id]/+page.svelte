<script lang="ts">
  import { onDestroy, tick } from 'svelte';
  import { page } from '$app/state';
  import { press } from '#lib/keys.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import HandOver from '#lib/parts/HandOver.svelte';
  import { help } from '#lib/parts/help.svelte.ts';
  import PassTape from '#lib/parts/PassTape/PassTape.svelte';
  import { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';
  import Bar from './Bar.svelte';
  import Connect from './Connect.svelte';
  import Correct from './Correct.svelte';
  import Curve from './Curve.svelte';
  import { Desk } from './desk.svelte.ts';
  import Face from './Face.svelte';
  import More from './More.svelte';
  import Round from './Round.svelte';
  import Say from './Say.svelte';
  import Side from './Side.svelte';
  import Told from './Told.svelte';
  import Wrench from './Wrench.svelte';

  const run = new Run(page.params.id!);
  const desk = new Desk(run);
  let error = $state('');
  run.open().catch((problem: Error) => (error = problem.message));
  void desk.meter.load();
  onDestroy(() => {
    run.close();
    desk.meter.close();
  });
  const step = $derived(run.step);
  /** On a small screen the drawing makes room where the answers would lie below its edge. */
  let tight = $state(false);
  let size = $state([0, 0]);
  $effect(() => {
    void [`${step?.step}#${step?.attempt}`, run.stopped.length, desk.meter.result];
    const [width = 0, high = 0] = size;
    tight = false;
    if (width > 900 && high > 500) return;
    void tick().then(() => {
      const last = document.querySelector('.side .last');
      tight = !!last && last.getBoundingClientRect().bottom + scrollY > high;
    });
  });
  const curved = $derived(desk.meter.curve.angle.length > 0);
  const close = () => (desk.dialog = '');

  $effect(() => {
    help.keys = desk.keys;
    return () => void (help.keys = []);
  });
  let lock: WakeLockSentinel | undefined;
  $effect(() => {
    navigator.wakeLock
      ?.request('screen')
      .then((l) => (lock = l))
      .catch(() => undefined);
    return () => void lock?.release();
  });
</script>

<svelte:head><title>Run {run.view?.head.number ?? ''} · Orthotorq</title></svelte:head>
<svelte:window
  onkeydown={(event) => press(event, desk.keys)}
  ononline={() => run.flush()}
  bind:innerWidth={() => size[0], (w) => (size = [w ?? 0, size[1] ?? 0])}
  bind:innerHeight={() => size[1], (h) => (size = [size[0] ?? 0, h ?? 0])}
/>

<div class="run">
  <Bar {run} />
  <Failure text={error} class="m-8" />
  <div><Told {run} /></div>
  {#if run.view && run.state}
    <div class="main {tight ? 'tight' : ''}">
      <div class="left {curved ? 'curved' : ''}">
        <!-- a drawing that fails takes nothing with it: the instruction stands -->
        <svelte:boundary onerror={(problem) => console.error(problem)}>
          <Face {run} {desk} />
          {#snippet failed()}<p class="soft">
              The drawing cannot be shown. Go by the number of the bolt.
            </p>{/snippet}
        </svelte:boundary>
        {#if curved}<Curve meter={desk.meter} />{/if}
      </div>
      <Side {run} {desk} />
    </div>
    <footer class="tape">
      <svelte:boundary onerror={(problem) => console.error(problem)}>
        <PassTape
          bands={run.state.tape.filter(
            (b) => !step?.position || b.position === run.state?.position,
          )}
          label={sentence('run.progress', { count: run.state.done })}
        />
        {#snippet failed()}<p class="soft">
            {sentence('run.done', { count: run.state?.done ?? 0 })}
          </p>{/snippet}
      </svelte:boundary>
    </footer>
  {/if}
</div>

{#if desk.dialog === 'correct' && run.state?.last}
  <Correct {run} last={run.state.last} onclose={close} />
{:else if desk.dialog === 'round' && step}
  <Round {run} {step} onclose={close} />
{:else if desk.dialog === 'more'}
  <More
    {run}
    {step}
    onwrench={() => (desk.dialog = 'wrench')}
    ondevice={() => (desk.dialog = 'device')}
    onhand={() => (desk.dialog = 'hand')}
    onopen={(which) => (desk.dialog = which)}
    onclose={close}
  />
{:else if desk.dialog === 'hand'}
  <HandOver
    onclose={close}
    ondone={() => run.handed().catch((problem: Error) => (error = problem.message))}
  />
{:else if desk.dialog === 'device'}
  <Connect meter={desk.meter} onclose={close} />
{:else if desk.dialog === 'wrench'}
  <Wrench {run} onclose={close} />
{:else if desk.dialog === 'problem' || desk.dialog === 'note' || desk.dialog === 'suggest'}
  <Say kind={desk.dialog} {run} {step} onclose={close} />
{/if}

<style>
  .run {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto auto 1fr auto;
    min-height: 100dvh;
  }
  .main {
    display: grid;
    grid-template-columns: minmax(0, 1.06fr) minmax(0, 1fr);
    gap: 1.5rem;
    padding: 0.75rem 1.25rem;
    align-items: start;
  }
  .left {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 0.5rem;
    min-width: 0;
  }
  /* the curve takes its room from the drawing: beside it the bolt is still seen, on a phone it stands in its place */
  .curved :global(.face) {
    height: calc(100dvh - 400px);
  }
  .tight :global(.face) {
    display: none;
  }
  .tight :global(.cautions) {
    font-size: 0.92rem;
    line-height: 1.15;
  }
  .tight :global(.cautions p),
  .tight :global(.cautions svg) {
    display: inline;
    font-size: inherit;
    margin-right: 0.3rem;
  }
  .tight :global(.first) {
    font-size: 1rem;
  }
  .tight :global(.side) {
    gap: 3px;
  }
  .tight :global(.side p) {
    line-height: 1.12;
  }
  .tape {
    padding: 0.4rem 1.25rem 0.8rem;
    border-top: 1px solid var(--hairline);
    background: var(--sheet);
    min-width: 0;
    overflow: hidden;
  }
  @media (max-width: 900px), (max-height: 500px) {
    .curved :global(.face) {
      display: none;
    }
  }
  @media (max-width: 900px) {
    .main {
      grid-template-columns: minmax(0, 1fr);
      gap: 0.5rem;
      padding: 0.4rem 0.8rem;
    }
  }
  @media (max-height: 500px) and (orientation: landscape) {
    .main {
      grid-template-columns: minmax(0, 0.7fr) minmax(0, 1fr);
      gap: 0.75rem;
      padding: 0 0.6rem;
    }
    .tight :global(.figure),
    .tight :global(.row .number) {
      font-size: 2.2rem;
    }
    .main.tight {
      grid-template-columns: minmax(0, 1fr);
      gap: 0;
    }
    .tight :global(.last) {
      grid-template-columns: repeat(2, minmax(0, 1fr));
    }
    .tape {
      display: none;
    }
  }
  @media (max-width: 500px) {
    .tight :global(.figure) {
      font-size: 2.4rem;
    }
    .tight :global(.row .number) {
      font-size: 3rem;
    }
    .main {
      gap: 0.25rem;
      padding: 0.2rem 0.7rem;
    }
    .tape {
      padding: 0.2rem 0.6rem 0.5rem;
    }
  }
</style>
