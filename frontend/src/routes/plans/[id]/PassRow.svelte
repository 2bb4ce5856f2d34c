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
  import { fieldsOf, type Pass, type Tighten } from '#lib/plan.ts';
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
    /** The pass as computed, group by group. */
    outs: Schemas['PassOut'][];
  }
  let { bench, work, stage, one, number, at, outs }: Props = $props();
  const kind = $derived(catalogue.value?.pass_kinds.find((k) => k.do === one.do));
  const shown = $derived((kind?.fields ?? []).filter((f) => f.main || fieldsOf(one)[f.name] !== undefined));
  const rest = $derived((kind?.fields ?? []).filter((f) => !shown.includes(f)));
  const order = $derived((fieldsOf(one).order as { kind?: string } | undefined)?.kind ?? '');
  const orders = $derived.by<[string, string][]>(() => {
    const layout = bench.doc.groups.find((g) => stage.groups?.includes(g.id))?.layout.kind ?? '';
    const offered = catalogue.value?.orders[layout] ?? [];
    return [...new Set([...offered, order].filter(Boolean))].map((name) => [name, name.replace('_', ' ')]);
  });
  const error = (name: string) => bench.errorIn(`${at}/${name}`);
  const check = (on: string) => bench.act('check_pass', { stage: stage.id, one: one.id, on: on ? 'yes' : 'no' });
</script>

{#snippet entry(spec: Schemas['FieldSpec'])}
  <FormField
    {spec}
    part={one}
    error={error(spec.name)}
    label="{spec.label} of pass {number}{spec.kind === 'percent' ? ', percent' : ''}"
    shown={spec.label}
    ontick={spec.name === 'check' ? check : undefined}
  />
{/snippet}

<TableBodyRow>
  <TableBodyCell>
    <span class="soft text-sm">{kind?.words}</span>
    {#each shown as spec (spec.name)}{@render entry(spec)}{/each}
    {#if rest.length}<Fold title="" more="more"
        >{#each rest as spec (spec.name)}{@render entry(spec)}{/each}</Fold
      >{/if}
  </TableBodyCell>
  <TableBodyCell>
    {#if kind?.ordered}
      <QuantityField
        label="Order of pass {number}"
        hidden
        value={order}
        choices={order ? orders : [['', 'usual'], ...orders]}
        error={error('order')}
        onchange={(name) => (fieldsOf(one).order = { ...((fieldsOf(one).order as object | undefined) ?? {}), kind: name })}
      />
    {/if}
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
  <TableBodyCell class="text-right"
    >{#if (stage.passes ?? []).length > 1}<Word
        class="text-sm"
        label="Take out pass {number}"
        onclick={() => stage.passes!.splice(number - 1, 1)}>out</Word
      >{/if}</TableBodyCell
  >
</TableBodyRow>
