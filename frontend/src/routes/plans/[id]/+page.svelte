<script lang="ts">
  import { beforeNavigate } from '$app/navigation';
  import { page } from '$app/state';
  import { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Later from '#lib/parts/Later.svelte';
  import { help } from '#lib/parts/help.svelte.ts';
  import Working from '#lib/parts/Working/Working.svelte';
  import { press, type Key } from '#lib/keys.ts';
  import { session } from '#lib/session.svelte.ts';
  import Head from './Head.svelte';
  import { Mending } from './mend.svelte.ts';
  import PassStrip from './PassStrip.svelte';
  import Picture from './Picture.svelte';
  import Sections from './Sections.svelte';
  import Strip from './Strip.svelte';
  import { Tape } from './tape.svelte.ts';
  import Wrong from './Wrong.svelte';
  import { Work } from './work.svelte.ts';

  const bench = new Bench(page.params.id!);
  const tape = new Tape(
    () => bench.result,
    () => catalogue.value?.occasions[0]?.value ?? '',
    () => bench.sections.find((s) => s.key === bench.open && s.kind !== 'stage')?.id ?? '',
  );
  const work = new Work();
  const mending = new Mending(bench);
  let error = $state('');
  catalogue.need();
  bench
    .load()
    .then(carry)
    .catch((problem: Error) => (error = problem.message));

  /**
   * A figure brought from the quick sums, once the plan is open; else the first tightening is open.
   */
  async function carry() {
    const torque = page.url.searchParams.get('torque');
    if (torque) {
      history.replaceState(history.state, '', location.pathname);
      await bench.act('carry_torque', {
        torque,
        reason: page.url.searchParams.get('reason') ?? '',
      });
    }
    // what somebody has opened meanwhile stays open
    bench.open ||= `stage-${bench.result?.stages.find((s) => s.passes.some((p) => p.settings?.length))?.id}`;
  }
  $effect(() => bench.changed(JSON.stringify(bench.draft)));
  beforeNavigate(() => void (session.may('planning.edit_draft') && bench.draft && bench.save()));

  /** Open the line of the manual for the bolts that are looked at, and stand in it. */
  async function toManual() {
    const group = tape.group?.id ?? bench.doc.groups[0]!.id;
    bench.open = `figure-${group}`;
    bench.manual = true;
  }
  const keys: Key[] = [
    {
      key: 'w',
      words: 'working of the preload',
      run: () => tape.group && work.show(`${tape.group.id}/preload`, 'Preload'),
    },
    { key: 'ArrowRight', words: 'next step on the tape', run: tape.forward },
    { key: 'ArrowLeft', words: 'step before on the tape', run: tape.back },
    { key: 'ArrowDown', alt: true, words: 'next thing to fix', run: () => void mending.step(1) },
    { key: 'ArrowUp', alt: true, words: 'previous thing to fix', run: () => void mending.step(-1) },
    {
      key: 'y',
      alt: true,
      words: 'press its button: use the value, waive it, confirm it',
      run: () => void mending.close(),
    },
    { key: 'w', alt: true, words: 'waive it with a reason', run: () => void mending.reason() },
    { key: 'l', alt: true, words: 'text from the manual', run: () => void toManual() },
    {
      key: 'r',
      alt: true,
      words: 'release the plan',
      run: () => document.getElementById('release')?.click(),
    },
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
  <div aria-busy={bench.busy} class="flex flex-col md:h-[calc(100vh-3rem-2px)]">
    <Head {bench} />
    <div
      class="grid min-h-0 flex-1 md:grid-cols-[370px_minmax(0,1fr)] lg:grid-cols-[450px_minmax(0,1fr)]"
    >
      <div class="relative contain-layout overflow-y-auto border-r px-3 py-3">
        <Sections {bench} {work} />
      </div>
      {#if bench.result && tape.group}
        {@const drawn = { group: tape.group, result: bench.result }}
        <Later><Picture {bench} {tape} {work} {mending} {...drawn} /></Later>
      {:else}
        <div class="p-8">
          {#if bench.wrong.length}
            <p class="soft mb-2">The joint is drawn once it can be computed. Fix first:</p>
            <Wrong {bench} />
          {:else}<p class="soft">Computing …</p>{/if}
        </div>
      {/if}
    </div>
    {#if bench.result && tape.group}<Later><PassStrip {tape} /></Later>{/if}
  </div>
  <Strip {bench} {tape} />
  <Working
    bind:figure={work.figure}
    title={work.title}
    document={() => $state.snapshot(bench.doc)}
  />
{/if}
