<script lang="ts">
  import { small } from '#lib/figures.ts';
  import { onDestroy } from 'svelte';
  import { page } from '$app/state';
  import { press, type Key } from '#lib/keys.ts';
  import { geometryOf, visible } from '#lib/parts/JointFace/geometry.ts';
  import { help } from '#lib/parts/help.svelte.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import PassTape from '#lib/parts/PassTape/PassTape.svelte';
  import { Run } from '#lib/run.svelte.ts';
  import { session } from '#lib/session.svelte.ts';
  import Answer from './Answer.svelte';
  import Correct from './Correct.svelte';
  import Finish from './Finish.svelte';
  import More from './More.svelte';
  import Round from './Round.svelte';
  import Say from './Say.svelte';

  const run = new Run(page.params.id!);
  let error = $state('');
  let dialog = $state<'' | 'problem' | 'note' | 'suggest' | 'correct' | 'round' | 'more'>('');
  let shownAt = 0;
  let reading = $state('');
  let now = $state(Date.now() / 1000);
  const ticking = setInterval(() => (now = Date.now() / 1000), 1000);

  run.open().catch((problem: Error) => (error = problem.message));
  onDestroy(() => {
    run.close();
    clearInterval(ticking);
  });

  const step = $derived(run.step);
  const groups = $derived(run.view?.groups ?? []);
  const heads = $derived(Object.fromEntries(groups.map((g) => [g.id, g.thread.head_mm])));
  const places = $derived(
    visible(
      groups.flatMap((g) => g.places),
      step?.places.length ? step.places : [],
    ),
  );
  const numbered = $derived(places.length > 0 && !geometryOf(places, Math.max(30, ...Object.values(heads))).ring?.inner);
  const looks = $derived.by(() => {
    const out = Object.fromEntries((run.state?.bolts ?? []).map((b) => [b.place, b]));
    // what is answered here and not sent yet looks as it will
    for (const event of run.unsent)
      if (event.kind === 'answer') {
        const place = event.step.split('/')[4] ?? '-';
        if (out[place])
          out[place] = {
            ...out[place],
            state: run.state?.instruction?.check_round ? 'checked' : 'part',
            percent: Math.max(out[place].percent, band?.percent ?? 0),
          };
      }
    return out;
  });
  const band = $derived(
    run.state?.tape.find((b) => b.done < b.total && b.done > 0) ?? run.state?.tape.find((b) => b.done < b.total),
  );
  const may = $derived(session.has('fitter', 'supervisor') && !run.lost);
  const open = $derived((run.state?.deviations ?? []).filter((d) => !d.accepted_by).length);
  const clocks = $derived((run.state?.clocks ?? []).filter((c) => !c.set && c.deadline > now));
  const left = (until: number) =>
    until - now >= 90 ? `${Math.ceil((until - now) / 60)} min` : `${Math.max(0, Math.ceil(until - now))} s`;

  // A remote that sends its key twice must not answer two bolts.
  const GUARD_MS = 250;
  // a string, so that the answer of the server about the step already shown neither locks it nor empties a reading
  const shown = $derived(`${step?.step}#${step?.attempt}`);
  $effect(() => {
    void shown;
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
    else if (step?.kind === 'wait' && step.ready_at && step.ready_at > now) return;
    else if (step?.kind !== 'decision') void answer(button.answer);
  }
  const keys = $derived.by((): Key[] => {
    if (dialog || !may) return [];
    const out: Key[] = (step?.kind === 'decision' ? step.buttons.filter((b) => b.answer !== 'accept') : (step?.buttons ?? []))
      .filter((b) => !['enter', 'space'].includes(b.key))
      .map((b) => ({ key: b.key, words: b.label, run: () => void answer(b.answer) }));
    const words = step?.buttons[0]?.label ?? '';
    for (const key of ['space', 'Enter', 'PageDown', 'ArrowRight'])
      out.push({ key, words: key === 'space' ? words : `${words} (remote)`, run: primary });
    if (step?.buttons.some((b) => b.answer === 'not_sure'))
      for (const key of ['PageUp', 'ArrowLeft'])
        out.push({ key, words: 'Not sure (remote)', run: () => void answer('not_sure') });
    out.push({ key: 'w', words: 'something is wrong', run: () => (dialog = 'problem') });
    if (run.state?.last) out.push({ key: 'c', words: 'correct the last answer', run: () => (dialog = 'correct') });
    if (step && step.ahead.length) out.push({ key: 'a', words: 'the whole round at once', run: () => (dialog = 'round') });
    out.push({ key: 't', words: 'note, photo, skip, do again', run: () => (dialog = 'more') });
    return out;
  });
  $effect(() => {
    help.keys = keys;
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
<svelte:window onkeydown={(event) => press(event, keys)} ononline={() => run.flush()} />

<div class="run">
  <header class="top">
    {#if run.view}
      <p class="min-w-0 flex-1 truncate">
        <b>{run.view.head.equipment_name} › {run.view.head.joint_name}</b>
        <span class="soft ml-2 hidden text-sm sm:inline"
          >revision {run.view.head.revision} · run {run.view.head.number}{run.state && run.state.occasion !== 'install'
            ? ` · ${run.state.occasion}`
            : ''}{run.state?.history === 'unknown' ? ' · history unknown' : ''}</span
        >
      </p>
      {#if open}<span class="hidden items-center gap-1 text-sm sm:flex"
          ><svg width="13" height="13" aria-hidden="true"><rect width="13" height="13" fill="var(--stop)" /></svg>{open} deviation{open ===
          1
            ? ''
            : 's'}</span
        >{/if}
      <span class="text-sm whitespace-nowrap {run.offline || run.unsent.length > 2 ? 'text-caution font-bold' : 'soft'}"
        >{run.offline
          ? `no connection, ${run.unsent.length} kept here`
          : run.unsent.length
            ? `saving ${run.unsent.length}`
            : 'all saved'}</span
      >
      <a class="act pause" href="/runs/{run.id}/record">Pause</a>
    {/if}
  </header>

  {#if error}<p class="p-8 text-stop" role="alert">{error}</p>{/if}
  {#if run.view && run.state}
    <div class="main">
      <div class="face">
        <JointFace
          {places}
          acrossFlats={Math.max(30, ...Object.values(heads))}
          {heads}
          {looks}
          next={step?.places ?? []}
          middle={step?.label ?? ''}
          below={step?.upcoming.length ? `then ${step.upcoming.join(', then ')}` : ''}
          label="Joint{step?.position ? ` ${step.position}` : ''}{step?.label ? `, now bolt ${step.label}` : ''}"
        />
        {#if step?.position}<p class="where">{step.position}</p>{/if}
      </div>
      <div class="side">
        {#if clocks.length && step}
          <p class="flex items-center gap-2 text-[1.05rem]">
            <svg width="15" height="15" aria-hidden="true"
              ><circle cx="7.5" cy="7.5" r="6" fill="none" stroke="var(--caution)" stroke-width="2" /><path
                d="M7.5 4v4l3 2"
                fill="none"
                stroke="var(--caution)"
                stroke-width="2"
              /></svg
            >{clocks[0]!.what.split(',')[0]} sets in <b>{left(clocks[0]!.deadline)}</b>
          </p>
        {/if}
        {#if step}
          <Answer
            {step}
            {may}
            {now}
            {numbered}
            busy={run.busy}
            bind:reading
            onanswer={answer}
            onopen={(which) => (dialog = which)}
            last={run.state.last ?? null}
          />
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
          <Finish {run} />
        {/if}
        {#each run.state.waiting as wait (wait.step)}
          <p class="soft text-lg">
            Waiting meanwhile{wait.position ? `, ${wait.position}` : ''}: {wait.text}{wait.ready_at
              ? `, ${left(wait.ready_at)} left`
              : ''}
          </p>
        {/each}
        {#if run.lost}
          <div class="rounded border border-caution bg-caution-bg p-3" role="alert">
            <p>
              This run is open on another device ({run.view.lease_person}). Taps there that are not saved yet would become
              conflicts.
            </p>
            {#if session.has('fitter', 'supervisor')}<button class="act mt-2 !min-h-14" onclick={() => run.takeOver()}
                >Take over here</button
              >{/if}
          </div>
        {/if}
        {#if run.said}<p class="rounded border border-stop bg-stop-bg p-3 text-lg" role="alert">{run.said}</p>{/if}
        {#if run.state.recent.length && step}
          <p class="recent soft">
            before: {#each run.state.recent as one, i (one.event)}{i ? ' · ' : ''}<b>{one.label === '-' ? '' : one.label}</b>
              {small(one.text)}{/each}
          </p>
        {/if}
      </div>
    </div>
    <footer class="tape">
      <PassTape
        bands={run.state.tape.filter((b) => !step?.position || b.position === run.state?.position)}
        label="Progress: {run.state.done} steps done"
      />
    </footer>
  {/if}
</div>

{#if dialog === 'correct' && run.state?.last}
  <Correct {run} last={run.state.last} onclose={() => (dialog = '')} />
{:else if dialog === 'round' && step}
  <Round {run} {step} onclose={() => (dialog = '')} />
{:else if dialog === 'more'}
  <More {run} {step} onopen={(which) => (dialog = which)} onclose={() => (dialog = '')} />
{:else if dialog === 'problem' || dialog === 'note' || dialog === 'suggest'}
  <Say kind={dialog} {run} {step} onclose={() => (dialog = '')} />
{/if}

<style>
  .run {
    display: grid;
    grid-template-rows: auto 1fr auto;
    min-height: 100dvh;
  }
  .top {
    display: flex;
    align-items: center;
    gap: 1rem;
    padding: 0.3rem 1rem;
    background: var(--sheet);
    border-bottom: 1px solid var(--hairline);
  }
  .pause {
    min-height: 56px;
    min-width: 96px;
    font-size: 1.1rem;
  }
  .main {
    display: grid;
    grid-template-columns: minmax(0, 1.06fr) minmax(0, 1fr);
    gap: 1.5rem;
    padding: 0.75rem 1.25rem;
    align-items: start;
  }
  .face {
    position: relative;
    height: min(calc(100dvh - 180px), 50vw);
  }
  .where {
    position: absolute;
    top: 0;
    left: 0;
    font-size: 1.6rem;
    font-weight: 800;
    background: var(--ink);
    color: var(--paper);
    padding: 0.1rem 0.8rem;
    border-radius: 4px;
  }
  .recent {
    font-size: 1.05rem;
  }
  .side {
    display: grid;
    gap: 0.75rem;
    align-content: start;
  }
  .tape {
    padding: 0.4rem 1.25rem 0.8rem;
    border-top: 1px solid var(--hairline);
    background: var(--sheet);
    min-width: 0;
    overflow: hidden;
  }
  @media (max-width: 900px) {
    .main {
      grid-template-columns: minmax(0, 1fr);
      gap: 0.5rem;
      padding: 0.4rem 0.8rem;
    }
    .face {
      height: min(31dvh, 94vw);
    }
    .face :global(text.middle) {
      display: none;
    }
    .where {
      font-size: 1.2rem;
    }
  }
  @media (max-width: 500px) {
    .face {
      height: 29dvh;
    }
    .face :global(text.middle) {
      display: initial;
    }
    .recent {
      display: none;
    }
    .top {
      padding: 0.2rem 0.6rem;
      gap: 0.6rem;
    }
    .tape {
      padding: 0.2rem 0.6rem 0.5rem;
    }
  }
</style>
