<script lang="ts">
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { fieldsOf, namesIn, valueOf, type Pass, type Tighten } from '#lib/plan.ts';
  import Orders from './Orders.svelte';
  import type { Work } from './work.svelte.ts';

  /** One pass: the fields of its kind, its order, the settings it comes to. */
  interface Props {
    bench: Bench;
    work: Work;
    stage: Tighten;
    one: Pass;
    number: number;
    /** Where the pass stands in the document. */
    at: string;
    /** The pass as computed, group by group, where it is set. */
    outs: Schemas['PassOut'][];
    /** Its name as computed. */
    named?: string;
  }
  let { bench, work, stage, one, number, at, outs, named }: Props = $props();
  const kind = $derived(catalogue.value?.pass_kinds.find((k) => k.do === one.do));
  // the name stands above the fields already
  const shown = $derived((kind?.fields ?? []).filter((f) => f.main || (f.name !== 'name' && valueOf(one, f.name) !== undefined)));
  const rest = $derived((kind?.fields ?? []).filter((f) => !shown.includes(f) && (f.kind !== 'chains' || chains.length > 1)));
  const order = $derived((fieldsOf(one).order as { kind?: string } | undefined)?.kind ?? '');
  const orders = $derived.by<[string, string][]>(() => {
    const layout = bench.doc.groups.find((g) => stage.groups?.includes(g.id))?.layout.kind ?? '';
    const offered = catalogue.value?.orders[layout] ?? [];
    return [...new Set([...offered, order].filter(Boolean))].map((name) => [name, name.replace('_', ' ')]);
  });
  const chains = $derived(namesIn.chains(bench.doc));
  const group = $derived(bench.result?.groups.find((g) => stage.groups?.includes(g.id)));
  let comparing = $state(false);
  const error = (name: string) => bench.errorIn(`${at}/${name}`);
  const move = (by: string) => void bench.act('move_pass', { stage: stage.id, one: one.id, by });
  const check = (on: string) => bench.act('check_pass', { stage: stage.id, one: one.id, on: on ? 'yes' : 'no' });
</script>

{#snippet entry(spec: Schemas['FieldSpec'])}
  <FormField
    {spec}
    part={one}
    error={error(spec.name)}
    names={spec.kind === 'chains' ? chains : []}
    label="{spec.label} of pass {number}{spec.kind === 'percent' ? ', percent' : ''}"
    shown={spec.label}
    ontick={spec.name === 'check' ? check : undefined}
  />
{/snippet}

<TableBodyRow>
  <TableBodyCell>
    <div class="grid grid-cols-[1fr_1fr] items-end gap-x-3 gap-y-1">
      <b class="col-span-full text-sm">{outs[0]?.name ?? named ?? one.name ?? kind?.words}</b>
      {#each shown.filter((f) => f.kind !== 'tick') as spec (spec.name)}{@render entry(spec)}{/each}
      {#if kind?.ordered}
        <div>
          <QuantityField
            label="Order of pass {number}"
            shown="Order"
            value={order}
            choices={order ? orders : [['', 'usual'], ...orders]}
            error={error('order')}
            onchange={(name) => (fieldsOf(one).order = { ...((fieldsOf(one).order as object | undefined) ?? {}), kind: name })}
          />
        </div>
      {/if}
      {#each shown.filter((f) => f.kind === 'tick') as spec (spec.name)}{@render entry(spec)}{/each}
      <div class="col-span-full">
        {#if rest.length}<Fold title="" more="more"
            >{#each rest as spec (spec.name)}{@render entry(
                spec,
              )}{/each}{#if kind?.ordered && group && group.places.length > 2}<Word
                class="justify-self-start text-sm"
                label="Compare orders of pass {number}"
                onclick={() => (comparing = true)}>compare orders</Word
              >{/if}</Fold
          >{/if}
      </div>
    </div>
  </TableBodyCell>
  <TableBodyCell class="whitespace-nowrap">
    {#each outs as out (out.group)}
      {@const setting = out.settings![0]!}
      <Word
        title="working"
        onclick={() => work.show(`${stage.id}/${one.id}/${out.group}/setting/${setting.chain}`, `Setting of ${out.name}`)}
        >{setting.text}</Word
      >
      {#if setting.scale}<span class="soft block text-xs">{setting.scale.main} + {setting.scale.collar}</span>{/if}
    {:else}–{/each}
  </TableBodyCell>
  <TableBodyCell class="text-right">
    {#if (stage.passes ?? []).length > 1}
      <span class="grid justify-items-end gap-1 text-sm">
        <Word label="Take out pass {number}" onclick={() => stage.passes!.splice(number - 1, 1)}>out</Word>
        {#if number > 1}<Word label="Pass {number} up" onclick={() => move('earlier')}>up</Word>{/if}
        {#if number < stage.passes!.length}<Word label="Pass {number} down" onclick={() => move('later')}>down</Word>{/if}
      </span>
    {/if}
  </TableBodyCell>
</TableBodyRow>
{#if comparing && group}<Orders {bench} {one} {group} onclose={() => (comparing = false)} />{/if}
