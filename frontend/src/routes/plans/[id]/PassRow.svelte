<script lang="ts">
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { ShownFields } from '#lib/shownFields.svelte.ts';
  import { namesIn, valueOf, type Pass, type Tighten } from '#lib/plan.ts';
  import ConditionFields from './ConditionFields.svelte';
  import OrderField from './OrderField.svelte';
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
  const front = new ShownFields(() =>
    (kind?.fields ?? [])
      .filter((f) => f.name !== 'name' && valueOf(one, f.name) !== undefined)
      .map((f) => f.name),
  );
  const shown = $derived((kind?.fields ?? []).filter((f) => f.main || front.has(f.name)));
  const rest = $derived(
    (kind?.fields ?? []).filter(
      (f) => !shown.includes(f) && (f.kind !== 'chains' || chains.length > 1),
    ),
  );
  const chains = $derived(namesIn.chains(bench.doc));
  const error = (name: string) => bench.errorIn(`${at}/${name}`);
  const move = (by: string) => void bench.act('move_pass', { stage: stage.id, one: one.id, by });
  const check = (on: string) =>
    bench.act('check_pass', { stage: stage.id, one: one.id, on: on ? 'yes' : 'no' });
</script>

{#snippet entry(spec: Schemas['FieldSpec'])}
  {#if spec.kind === 'condition'}
    <div class="col-span-full grid gap-2">
      <span class="text-sm text-soft">{spec.label}</span>
      <ConditionFields {bench} part={one} at="{at}/condition" pass={number} />
    </div>
  {:else}
    <FormField
      {spec}
      part={one}
      error={error(spec.name)}
      names={spec.kind === 'chains' ? chains : []}
      label={sentence('bench.field_of_pass', {
        field: spec.label,
        number,
        percent: spec.kind === 'percent' ? 'yes' : 'no',
      })}
      shown={spec.label}
      ontick={spec.name === 'check' ? check : undefined}
    />
  {/if}
{/snippet}

<TableBodyRow>
  <TableBodyCell>
    <div class="grid grid-cols-[1fr_1fr] items-end gap-x-3 gap-y-1" onfocusout={front.settle}>
      <b class="col-span-full text-sm">{outs[0]?.name ?? named ?? one.name ?? kind?.words}</b>
      {#each shown.filter((f) => f.kind !== 'tick') as spec (spec.name)}{@render entry(spec)}{/each}
      {#if kind?.ordered}
        <OrderField {bench} {stage} {one} {number} error={bench.errorIn(`${at}/order`)} />
      {/if}
      {#each shown.filter((f) => f.kind === 'tick') as spec (spec.name)}{@render entry(spec)}{/each}
      <div class="col-span-full">
        {#if rest.length}<Fold title="" more="more"
            >{#each rest as spec (spec.name)}{@render entry(spec)}{/each}</Fold
          >{/if}
      </div>
    </div>
  </TableBodyCell>
  <TableBodyCell class="whitespace-nowrap">
    {#each outs as out (out.group)}
      {@const setting = out.settings![0]!}
      <Word
        title="working"
        onclick={() =>
          work.show(
            `${stage.id}/${one.id}/${out.group}/setting/${setting.chain}`,
            `Setting of ${out.name}`,
          )}>{setting.text}</Word
      >
      {#if setting.scale}<span class="soft block text-xs"
          >{setting.scale.main} + {setting.scale.collar}</span
        >{/if}
    {:else}–{/each}
  </TableBodyCell>
  <TableBodyCell class="text-right">
    {#if (stage.passes ?? []).length > 1}
      <span class="grid justify-items-end gap-1 text-sm">
        <Word
          label={sentence('bench.remove_pass', { number })}
          onclick={() => stage.passes!.splice(number - 1, 1)}>Remove</Word
        >
        {#if number > 1}<Word
            label={sentence('bench.move_up_pass', { number })}
            onclick={() => move('earlier')}>Move up</Word
          >{/if}
        {#if number < stage.passes!.length}<Word
            label={sentence('bench.move_down_pass', { number })}
            onclick={() => move('later')}>Move down</Word
          >{/if}
      </span>
    {/if}
  </TableBodyCell>
</TableBodyRow>
