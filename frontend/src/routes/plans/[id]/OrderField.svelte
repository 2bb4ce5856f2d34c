<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { fieldsOf, type Pass, type Stage } from '#lib/plan.ts';
  import { sentence } from '#lib/sentence.ts';
  import CustomSequence from './CustomSequence.svelte';
  import Orders from './Orders.svelte';

  /**
   * The order in which a pass, or a stage without passes, goes over its bolts: a pattern, or a
   * custom sequence.
   */
  interface Props {
    bench: Bench;
    stage: Stage;
    /** The pass; none for the order of the stage itself. */
    one?: Pass;
    /** The number of the pass, for those who do not see where its order stands. */
    number?: number;
    error: string;
  }
  let { bench, stage, one, number, error }: Props = $props();
  const named = (field: string) => (number ? sentence('bench.of_pass', { field, number }) : field);
  const groups = $derived('groups' in stage ? ((stage.groups ?? []) as string[]) : []);
  const order = $derived(
    (fieldsOf(one ?? stage).order as { kind?: string } | undefined)?.kind ?? '',
  );
  const orders = $derived.by<[string, string][]>(() => {
    const layout = bench.doc.groups.find((g) => groups.includes(g.id))?.layout?.kind ?? 'circle';
    const offered = (catalogue.value?.orders[layout] ?? []).map((o): [string, string] => [
      o.value,
      o.words,
    ]);
    const known = offered.some(([kind]) => kind === order);
    const other: [string, string][] = order && !known ? [[order, order.replace('_', ' ')]] : [];
    return [...(order ? [] : [['', 'usual'] as [string, string]]), ...offered, ...other];
  });
  const group = $derived(bench.result?.groups.find((g) => groups.includes(g.id)));
  let comparing = $state(false);
  let entering = $state(false);
  let closed: (() => void) | undefined;

  function choose(kind: string): unknown {
    if (!kind || kind === order) return;
    if (kind !== 'custom')
      return bench.act('set_order', { stage: stage.id, order: kind, one: one?.id ?? '' }, true);
    entering = true;
    // the list shows what is chosen once the sequence is, or the old order again
    return new Promise<void>((resolve) => (closed = resolve));
  }
  function close() {
    entering = false;
    closed?.();
    closed = undefined;
  }
</script>

<div class="col-span-full">
  <QuantityField
    label={named('Order')}
    shown="Order"
    value={order}
    choices={orders}
    {error}
    onchange={choose}
  />
  <span class="flex flex-wrap gap-x-3 text-sm">
    {#if order === 'custom'}<Word label={named('Change sequence')} onclick={() => (entering = true)}
        >Change sequence</Word
      >{/if}
    {#if one && group && group.places.length > 2}<Word
        label={named('Compare orders')}
        onclick={() => (comparing = true)}>Compare</Word
      >{/if}
  </span>
</div>
{#if comparing && one && group}<Orders
    {bench}
    {one}
    {group}
    onclose={() => (comparing = false)}
  />{/if}
{#if entering}<CustomSequence {bench} {stage} {one} {groups} onclose={close} />{/if}
