<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import { ordinal } from '#lib/figures.ts';
  import { sentence } from '#lib/sentence.ts';
  import Judged from './Judged.svelte';
  import TorqueBars from './TorqueBars.svelte';
  import type { Mending } from './mend.svelte.ts';
  import type { Tape } from './tape.svelte.ts';
  import Wrong from './Wrong.svelte';
  import type { Work } from './work.svelte.ts';

  /**
   * The result: the joint to scale, the torque of each bolt, the window, the setting, the findings.
   */
  interface Props {
    bench: Bench;
    tape: Tape;
    work: Work;
    mending: Mending;
    group: Schemas['GroupOut'];
    result: Schemas['Result'];
  }
  let { bench, tape, work, mending, group, result }: Props = $props();
  const shown = $derived(tape.pass ?? tape.set?.pass);
  const names = (places: string[], by: string) =>
    places.map((place) => tape.labels[place]).join(by);
  const ordered = $derived(
    Object.values(catalogue.value?.orders ?? {})
      .flat()
      .find((o) => o.value === shown?.order_kind)?.words ?? '',
  );
  /** The next bolt and its place in the order of its pass; at the end what the joint is. */
  const place = $derived.by(() => {
    const pass = tape.pass;
    const at = pass?.order.findIndex((move) => move[0] === tape.now.next[0]) ?? -1;
    return pass && at >= 0 ? `${ordinal(at + 1)} of ${pass.order.length}, ${pass.name}` : '';
  });
  const below = $derived(
    place ||
      `${group.places.length} × ${group.thread.designation}${group.layout === 'circle' ? ` · Ø ${group.span_mm} mm` : ''}`,
  );
</script>

<div
  class="relative grid min-w-0 gap-x-6 xl:min-h-0 gap-y-3 px-5 py-3 md:overflow-y-auto xl:grid-cols-[minmax(0,1fr)_400px] xl:overflow-hidden"
>
  <div class="relative grid min-w-0 content-start gap-2 xl:min-h-0 xl:overflow-y-auto">
    {#if bench.stale}
      <!-- while it is only computed it lies over the picture, which then need not be laid out and
           painted twice -->
      <Notice
        severity="stop"
        role="status"
        class={bench.wrong.length ? '' : 'absolute inset-x-0 top-0 z-10'}
      >
        <p>
          {bench.wrong.length
            ? 'Not current: these figures are from before the last change. Fix first:'
            : 'Not current: these figures are from before the last change.'}
        </p>
        {#if bench.wrong.length}<Wrong {bench} />{/if}
      </Notice>
    {/if}
    <div class="mx-auto aspect-square w-full max-w-[340px]">
      <JointFace
        places={tape.drawn}
        acrossFlats={Math.max(...Object.values(tape.heads))}
        heads={tape.heads}
        looks={tape.now.looks}
        next={tape.now.next}
        path={shown?.order_kind === 'custom' ? shown.order.map((move) => move[0] ?? '') : []}
        middle={place ? names(tape.now.next.slice(0, 1), '') : ''}
        calm
        {below}
        label={sentence('bench.face', {
          group: group.name,
          count: group.places.length,
          next: tape.now.next.length ? names(tape.now.next, ' and ') : 'none',
        })}
      />
    </div>
    <TorqueBars {tape} {group} />
    {#if shown && shown.order.length > 1}
      <p class="soft text-sm leading-snug">
        {ordered}:
        <span class="font-semibold text-ink"
          >{shown.order.map((move) => names(move, '+')).join(' ')}</span
        >
      </p>
    {/if}
  </div>
  <Judged {bench} {tape} {work} {mending} {group} {result} />
</div>
