<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import PassTape from '#lib/parts/PassTape/PassTape.svelte';
  import Word from '#lib/parts/Word.svelte';
  import Judged from './Judged.svelte';
  import type { Mending } from './mend.svelte.ts';
  import type { Tape } from './tape.svelte.ts';
  import Wrong from './Wrong.svelte';
  import type { Work } from './work.svelte.ts';

  /** What the plan comes to: the joint to scale, the window, the setting, the findings, the tape. */
  interface Props {
    bench: Bench;
    tape: Tape;
    work: Work;
    mending: Mending;
    group: Schemas['GroupOut'];
    result: Schemas['Result'];
  }
  let { bench, tape, work, mending, group, result }: Props = $props();
  const shown = $derived(tape.now.pass ?? tape.set?.pass);
  const names = (places: string[], by: string) => places.map((place) => tape.labels[place]).join(by);
  const below = $derived(
    `${group.places.length} × ${group.thread.designation}${group.layout === 'circle' ? ` · Ø ${group.span_mm} mm` : ''}`,
  );
</script>

<div
  class="relative grid min-w-0 gap-x-7 gap-y-3 px-6 py-4 md:overflow-y-auto xl:grid-cols-[minmax(0,1fr)_380px] xl:grid-rows-[minmax(0,1fr)_auto] xl:overflow-hidden"
>
  <div class="relative grid min-w-0 content-start gap-2">
    {#if bench.stale}
      <!-- while it is only computed it lies over the picture, which then need not be laid out and painted twice -->
      <Notice severity="stop" role="status" class={bench.wrong.length ? '' : 'absolute inset-x-0 top-0 z-10'}>
        <p>Not current: these figures are from before the last change{bench.wrong.length ? '. To be mended:' : '.'}</p>
        {#if bench.wrong.length}<Wrong {bench} />{/if}
      </Notice>
    {/if}
    <div class="mx-auto aspect-square w-full max-w-[430px]">
      <JointFace
        places={tape.drawn}
        acrossFlats={Math.max(...Object.values(tape.heads))}
        heads={tape.heads}
        looks={tape.now.looks}
        next={tape.now.next}
        {below}
        label="{group.name}, {group.places.length} bolts{tape.now.next.length ? `, now ${names(tape.now.next, ' and ')}` : ''}"
      />
    </div>
    <p class="soft text-sm leading-snug">
      Filled: share of the torque {tape.at === null ? 'at the end' : 'after this step'}.
      {#if shown && shown.order.length > 1}{(shown.order_kind ?? '').replace('_', ' ')} order
        <span class="font-semibold text-ink">{shown.order.map((move) => names(move, '+')).join(' ')}</span>{/if}
    </p>
  </div>
  <Judged {bench} {tape} {work} {mending} {group} {result} />
  <div class="min-w-0 xl:col-span-2">
    <p class="mb-1 text-sm">
      <b>Pass tape</b>
      <span class="soft">drag along it, or use the arrow keys: torque reached after each step</span>
      <Word class="ml-3" onclick={tape.play}>{tape.playing ? 'pause' : 'play the order'}</Word>
      {#if tape.at !== null}<Word
          class="ml-3"
          onclick={() => {
            tape.pause();
            tape.at = null;
          }}>to the end</Word
        >{/if}
    </p>
    <PassTape
      bands={tape.bands}
      at={tape.at}
      onmove={(step) => {
        tape.pause();
        tape.at = step;
      }}
      label="Pass tape, step"
    />
  </div>
</div>
