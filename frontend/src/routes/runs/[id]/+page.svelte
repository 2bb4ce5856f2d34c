<script lang="ts">
  import { onDestroy } from 'svelte';
  import { page } from '$app/state';
  import { press, type Key } from '#lib/keys.ts';
  import { help } from '#lib/parts/help.svelte.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import PassTape from '#lib/parts/PassTape/PassTape.svelte';
  import { Run } from '#lib/run.svelte.ts';
  import { session } from '#lib/session.svelte.ts';
  import Answer from './Answer.svelte';
  import Correct from './Correct.svelte';
  import Finish from './Finish.svelte';
  import Say from './Say.svelte';

  const run = new Run(page.params.id!);
  let error = $state('');
  let dialog = $state<'' | 'problem' | 'note' | 'suggest' | 'correct'>('');
  let shownAt = 0;
  let reading = $state('');

  run.open().catch((problem: Error) => (error = problem.message));
  onDestroy(() => run.close());

  const step = $derived(run.state?.instruction ?? null);
  const groups = $derived(run.view?.groups ?? []);
  const places = $derived(groups.flatMap((g) => g.places));
  const looks = $derived(Object.fromEntries((run.state?.bolts ?? []).map((b) => [b.place, b])));
  const may = $derived(session.has('fitter', 'supervisor') && !run.lost);
  const open = $derived((run.state?.deviations ?? []).filter((d) => !d.accepted_by).length);

  // A remote that sends its key twice must not answer two bolts.
  const GUARD_MS = 250;
  $effect(() => {
    void step?.step;
    shownAt = performance.now();
    reading = '';
  });

  async function answer(kind: string, more: Record<string, unknown> = {}) {
    if (!step || run.busy || performance.now() - shownAt < GUARD_MS) return;
    await run.send('answer', step.step, { answer: kind, ...more });
  }
  function primary() {
    const button = step?.buttons[0];
    if (!button || dialog) return;
    if (button.answer === 'value') document.querySelector<HTMLInputElement>('#reading')?.focus();
    else void answer(button.answer);
  }
  const keys = $derived.by((): Key[] => {
    if (dialog || !may) return [];
    const out: Key[] = (step?.buttons ?? [])
      .filter((b) => !['enter', 'space'].includes(b.key))
      .map((b) => ({ key: b.key, words: b.label, run: () => void answer(b.answer) }));
    const words = step?.buttons[0]?.label ?? '';
    for (const key of ['space', 'Enter', 'PageDown', 'ArrowRight']) out.push({ key, words: key === 'space' ? words : `${words} (remote)`, run: primary });
    if (step?.kind === 'pull')
      for (const key of ['PageUp', 'ArrowLeft']) out.push({ key, words: 'Not sure (remote)', run: () => void answer('not_sure') });
    out.push({ key: 'w', words: 'something is wrong', run: () => (dialog = 'problem') });
    if (run.state?.last) out.push({ key: 'c', words: 'correct the last answer', run: () => (dialog = 'correct') });
    out.push({ key: 't', words: 'add a note', run: () => (dialog = 'note') });
    return out;
  });
  $effect(() => {
    help.keys = keys;
    return () => void (help.keys = []);
  });

  let lock: WakeLockSentinel | undefined;
  $effect(() => {
    navigator.wakeLock?.request('screen').then((l) => (lock = l)).catch(() => undefined);
    return () => void lock?.release();
  });
</script>

<svelte:head><title>Run {run.view?.head.number ?? ''} · Orthotorq</title></svelte:head>
<svelte:window onkeydown={(event) => press(event, keys)} ononline={() => run.flush()} />

<div class="run">
  <header class="top">
    {#if run.view}
      <p class="min-w-0 flex-1 truncate"><b>{run.view.head.equipment_name} › {run.view.head.joint_name}</b> <span class="soft ml-2 hidden text-sm sm:inline">revision {run.view.head.revision} · run {run.view.head.number}</span></p>
      {#if open}<span class="hidden items-center gap-1 text-sm sm:flex"><svg width="13" height="13" aria-hidden="true"><rect width="13" height="13" fill="var(--stop)" /></svg>{open} deviation{open === 1 ? '' : 's'}</span>{/if}
      <span class="text-sm whitespace-nowrap {run.unsent ? 'text-caution font-bold' : 'soft'}">{run.unsent ? `${run.unsent} not sent yet` : 'all saved'}</span>
      <a class="act pause" href="/runs/{run.id}/record">Pause</a>
    {/if}
  </header>

  {#if error}<p class="p-8 text-stop" role="alert">{error}</p>{/if}
  {#if run.view && run.state}
    <div class="main">
      <div class="face">
        <JointFace
          {places}
          acrossFlats={groups[0]?.thread.across_flats_mm ?? 30}
          {looks}
          next={step?.places ?? []}
          middle={step?.label ?? ''}
          below={step?.upcoming.length ? `then ${step.upcoming.join(', then ')}` : ''}
          label="Joint{step?.position ? ` ${step.position}` : ''}{step?.label ? `, now bolt ${step.label}` : ''}"
        />
        {#if step?.position}<p class="where">{step.position}</p>{/if}
      </div>
      <div class="side">
        {#if step}
          <Answer {step} {may} busy={run.busy} bind:reading onanswer={answer} onopen={(which) => (dialog = which)} last={run.state.last ?? null} />
        {:else}
          <Finish {run} />
        {/if}
        {#if run.lost}
          <div class="rounded border border-caution bg-caution-bg p-3" role="alert">
            <p>This run is open on another device ({run.view.lease_person}). Taps there that are not saved yet would become conflicts.</p>
            {#if session.has('fitter', 'supervisor')}<button class="act mt-2 !min-h-14" onclick={() => run.takeOver()}>Take over here</button>{/if}
          </div>
        {/if}
        {#if run.state.recent.length && step}
          <p class="recent soft">before: {#each run.state.recent as one, i (one.event)}{i ? ' · ' : ''}<b>{one.label === '-' ? '' : one.label}</b> {one.text.toLowerCase()}{/each}</p>
        {/if}
        {#if run.said}<p class="rounded border border-stop bg-stop-bg p-3 text-lg" role="alert">{run.said}</p>{/if}
      </div>
    </div>
    <footer class="tape">
      <PassTape bands={run.state.tape.filter((b) => !step?.position || b.position === run.state?.position)} label="Progress: {run.state.done} steps done" />
    </footer>
  {/if}
</div>

{#if dialog === 'correct' && run.state?.last}
  <Correct {run} last={run.state.last} onclose={() => (dialog = '')} />
{:else if dialog && dialog !== 'correct'}
  <Say kind={dialog} {run} step={step?.step ?? '-'} onclose={() => (dialog = '')} />
{/if}

<style>
  .run { display: grid; grid-template-rows: auto 1fr auto; min-height: 100dvh; }
  .top { display: flex; align-items: center; gap: 1rem; padding: 0.3rem 1rem; background: var(--sheet); border-bottom: 1px solid var(--hairline); }
  .pause { min-height: 56px; min-width: 96px; font-size: 1.1rem; }
  .main { display: grid; grid-template-columns: minmax(0, 1.06fr) minmax(0, 1fr); gap: 1.5rem; padding: 0.75rem 1.25rem; align-items: start; }
  .face { position: relative; height: min(calc(100dvh - 180px), 50vw); }
  .where { position: absolute; top: 0; left: 0; font-size: 1.6rem; font-weight: 800; background: var(--ink); color: var(--paper); padding: 0.1rem 0.8rem; border-radius: 4px; }
  .recent { font-size: 1.05rem; }
  .side { display: grid; gap: 0.75rem; align-content: start; }
  .tape { padding: 0.4rem 1.25rem 0.8rem; border-top: 1px solid var(--hairline); background: var(--sheet); min-width: 0; overflow: hidden; }
  @media (max-width: 900px) {
    .main { grid-template-columns: minmax(0, 1fr); gap: 0.5rem; padding: 0.4rem 0.8rem; }
    .face { height: min(31dvh, 94vw); }
    .face :global(text.middle) { display: none; }
    .where { font-size: 1.2rem; }
  }
  @media (max-width: 500px) {
    .face { height: 31dvh; }
    .face :global(text.middle) { display: initial; }
    .recent { display: none; }
    .top { padding: 0.2rem 0.6rem; gap: 0.6rem; }
    .tape { padding: 0.2rem 0.6rem 0.5rem; }
  }
</style>
