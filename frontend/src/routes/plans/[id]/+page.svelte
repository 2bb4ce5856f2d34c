<script lang="ts">
  import { beforeNavigate } from '$app/navigation';
  import { page } from '$app/state';
  import { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import { help } from '#lib/parts/help.svelte.ts';
  import Working from '#lib/parts/Working/Working.svelte';
  import { press, type Key } from '#lib/keys.ts';
  import { session } from '#lib/session.svelte.ts';
  import Head from './Head.svelte';
  import Picture from './Picture.svelte';
  import Sections from './Sections.svelte';
  import Strip from './Strip.svelte';
  import { Tape } from './tape.svelte.ts';
  import { Work } from './work.svelte.ts';

  const bench = new Bench(page.params.id!);
  const tape = new Tape(
    () => bench.result,
    () => catalogue.value?.occasions[0]?.value ?? '',
    () => bench.sections.find((s) => s.key === bench.open && s.kind !== 'stage')?.id ?? '',
  );
  const work = new Work();
  let error = $state('');
  catalogue.need();
  bench
    .load()
    .then(carry)
    .catch((problem: Error) => (error = problem.message));

  /** A figure brought from the quick sums, once the plan is open; else the first tightening is open. */
  async function carry() {
    const torque = page.url.searchParams.get('torque');
    if (torque) {
      history.replaceState(history.state, '', location.pathname);
      await bench.act('carry_torque', { torque, reason: page.url.searchParams.get('reason') ?? '' });
    }
    // what somebody has opened meanwhile stays open
    bench.open ||= `stage-${bench.result?.stages.find((s) => s.passes.some((p) => p.settings?.length))?.id}`;
  }
  $effect(() => bench.changed(JSON.stringify(bench.draft)));
  beforeNavigate(() => void (session.may('planning.save_draft') && bench.draft && bench.save()));

  const keys: Key[] = [
    {
      key: 'w',
      words: 'working of the preload',
      run: () => tape.group && work.show(`${tape.group.id}/preload`, 'Preload'),
    },
    { key: 'ArrowRight', words: 'next step on the tape', run: tape.forward },
    { key: 'ArrowLeft', words: 'step before on the tape', run: tape.back },
  ];
  $effect(() => {
    help.keys = keys;
    return () => {
      tape.pause();
      help.keys = [];
    };
  });
</script>

<svelte:head><title>{bench.draft?.title ?? 'Bench'} · Orthotorq</title></svelte:head>
<svelte:window
  onkeydown={(event) => {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && !event.altKey) {
      event.preventDefault();
      if (event.shiftKey) bench.redo();
      else bench.undo();
    } else press(event, keys);
  }}
/>
<Failure text={error || catalogue.failed} class="m-8" />
{#if bench.draft && bench.view}
  <div class="grid md:h-[calc(100vh-3rem)] md:grid-cols-[370px_1fr] lg:grid-cols-[430px_1fr]">
    <div class="relative overflow-y-auto border-r bg-sheet px-4 py-4 lg:px-5">
      <Head {bench} />
      <Sections {bench} {work} />
    </div>
    {#if bench.result && tape.group}
      <Picture {bench} {tape} {work} group={tape.group} result={bench.result} />
    {:else}
      <p class="soft p-8">
        {Object.keys(bench.errors).length
          ? 'Mend the marked fields on the left; the joint is drawn as soon as it can be computed.'
          : 'Computing …'}
      </p>
    {/if}
  </div>
  <Strip {bench} {tape} />
  <Working bind:figure={work.figure} title={work.title} document={() => $state.snapshot(bench.doc)} />
{/if}
