<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { fieldsOf } from '#lib/plan.ts';
  import Typed from './Typed.svelte';

  /** Where the figure comes from, and what that kind of target asks for. */
  interface Props {
    bench: Bench;
    group: string;
    /** The torque there is now, N·m: what another kind of target begins with. */
    torque?: number;
  }
  let { bench, group, torque }: Props = $props();
  const target = $derived(bench.doc.targets[group]);
  const at = $derived(`targets/${group}`);
  const source = $derived(
    (bench.doc.sources ?? []).findIndex((s) => s.id === (target && fieldsOf(target).source)),
  );
  const kind = $derived(source >= 0 ? 'source' : (target?.kind ?? ''));
  const KINDS: [string, string][] = [
    ['ranked', 'the source that ranks first'],
    ['source', 'a source I choose'],
    ['torque', 'a torque I enter'],
    ['torque+angle', 'torque plus angle'],
    ['preload', 'a clamp load (calculated)'],
    ['yield_fraction', 'a share of yield (calculated)'],
  ];
  /** What each kind asks for: [name, label, note]. */
  const ASKED: Record<string, [string, string, string?][]> = {
    torque: [['torque', 'Torque']],
    'torque+angle': [
      ['torque', 'Snug torque'],
      ['angle', 'Angle after it'],
    ],
    preload: [['preload', 'Clamp load of one bolt']],
    yield_fraction: [['fraction', 'Share of yield', '50 % is half']],
  };
  const begin = $derived<Record<string, string>>(
    torque ? { torque: `${Number(torque.toPrecision(4))} N·m` } : {},
  );
</script>

<QuantityField
  label="Target from"
  value={kind}
  error={bench.error(at)}
  choices={kind ? KINDS : [['', 'no figure'], ...KINDS]}
  onchange={(now) => bench.act('set_target', { group, kind: now, ...begin })}
/>
{#if target && source < 0 && ASKED[kind]}
  <div class="grid grid-cols-2 items-end gap-2">
    {#each ASKED[kind] as [name, label, note] (name)}
      <Typed
        {bench}
        part={target}
        {at}
        {name}
        {label}
        {note}
        as={name === 'fraction' ? 'share' : 'text'}
      />
    {/each}
  </div>
{/if}
{#if target}
  <Typed
    {bench}
    part={target}
    {at}
    name="reason"
    label="Reason"
    example="reason, where another source is overruled"
  />
{/if}
