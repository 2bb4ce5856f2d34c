<script lang="ts">
  import { untrack } from 'svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { fieldsOf, type Pass } from '#lib/plan.ts';
  import { sentence } from '#lib/sentence.ts';
  import Measures from './Measures.svelte';

  /**
   * Two orders of a pass side by side, played bolt by bolt together, with the measures by which
   * orders are compared.
   */
  interface Props {
    bench: Bench;
    one: Pass;
    /** The group whose bolts are gone over. */
    group: Schemas['GroupOut'];
    onclose: () => void;
  }
  let { bench, one, group, onclose }: Props = $props();
  let open = $state(true);
  const asked = new Asked<Schemas['OrdersOut']>();
  void untrack(() =>
    asked.ask(() =>
      api.POST('/api/v1/orders', {
        body: { document: $state.snapshot(bench.doc), group: group.id },
      }),
    ),
  );
  const items = $derived(asked.value?.items ?? []);
  const choices = $derived(items.map((item, i): [string, string] => [String(i), item.words]));
  let sides = $state([0, 1]);
  let at = $state(0);
  let clock: ReturnType<typeof setInterval> | undefined = $state();
  const most = $derived(Math.max(0, ...items.map((item) => item.moves.length)));
  const labels = $derived(Object.fromEntries(group.places.map((p) => [p.id, p.label])));
  const head = $derived(group.thread.head_mm);
  function play() {
    clearInterval(clock);
    if (clock) return (clock = undefined);
    if (at >= most) at = 0;
    clock = setInterval(() => {
      at += 1;
      if (at >= most) {
        clearInterval(clock);
        clock = undefined;
      }
    }, 500);
  }
  $effect(() => () => clearInterval(clock));
  const looks = (item: Schemas['OrderChoice']) =>
    Object.fromEntries(
      item.moves
        .slice(0, at)
        .flat()
        .map((place) => [place, { state: 'full', percent: 100 }]),
    );
  function use(item: Schemas['OrderChoice']) {
    fieldsOf(one).order = { ...item.order };
    onclose();
  }
</script>

<Modal bind:open title="Compare two sequences" size="lg" {onclose}>
  <Failure text={asked.failed} />
  {#if items.length > 1}
    <div class="grid grid-cols-2 gap-6">
      {#each sides as chosen, side (side)}
        {@const item = items[chosen]!}
        <section class="grid content-start gap-2" aria-label="Order {side + 1}">
          <QuantityField
            label={sentence('bench.which_order', { side: side ? 'right' : 'left' })}
            hidden
            value={String(chosen)}
            {choices}
            onchange={(now) => (sides[side] = Number(now))}
          />
          <div class="mx-auto aspect-square w-full max-w-[260px]">
            <JointFace
              places={group.places}
              acrossFlats={head}
              looks={looks(item)}
              next={item.moves[at] ?? []}
              path={item.moves.map((move) => move[0] ?? '')}
              label="{item.words}, after {at} of {item.moves.length}"
            />
          </div>
          <p class="text-sm">
            {item.moves.map((move) => move.map((place) => labels[place]).join('+')).join(' ')}
          </p>
          <Measures stray={item.stray} gap={item.gap} />
          <Word class="justify-self-start" onclick={() => use(item)}>Use this sequence</Word>
        </section>
      {/each}
    </div>
    <p class="flex items-center gap-4">
      <Word onclick={play}>{clock ? 'pause' : 'play both'}</Word>
      <Word disabled={at === 0} onclick={() => (at -= 1)}>Previous step</Word>
      <Word disabled={at >= most} onclick={() => (at += 1)}>Next step</Word>
      <span class="soft">{at} of {most}</span>
    </p>
    <p class="soft text-sm">
      The less it strays and the smaller the piece left untouched, the more evenly parts and gasket
      are drawn together. Where the maker shows an order, his holds.
    </p>
  {:else if asked.value}<p>These bolts have one order only.</p>{/if}
</Modal>
