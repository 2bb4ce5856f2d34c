<script lang="ts">
  import Radio from 'flowbite-svelte/Radio.svelte';
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { digits } from '#lib/figures.ts';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';

  /**
   * The sources of a group as the server ranks them, bounds and target in columns of their own; a
   * valid one can be chosen.
   */
  let { bench, group, sources }: { bench: Bench; group: string; sources: Schemas['SourceOut'][] } =
    $props();
  const uid = $props.id();
  const figure = (torque: number | null | undefined) => (torque == null ? '' : digits(torque));
</script>

{#if sources.length}
  <Table border={false}>
    <TableHead>
      <TableHeadCell><span class="sr-only">Chosen</span></TableHeadCell>
      <TableHeadCell>Target from, N·m</TableHeadCell>
      <TableHeadCell class="text-right">at least</TableHeadCell>
      <TableHeadCell class="text-right">target</TableHeadCell>
      <TableHeadCell class="text-right">at most</TableHeadCell>
      <TableHeadCell><span class="sr-only">Remove</span></TableHeadCell>
    </TableHead>
    <TableBody>
      {#each sources as one (one.id)}
        {@const taken = one.verdict === 'taken'}
        {@const choosable = taken || (one.verdict === 'valid' && !!one.torque_Nm)}
        <TableBodyRow class={taken ? 'font-semibold' : ''}>
          <TableBodyCell class="py-1 pr-0"
            ><Radio
              name="{uid}-source"
              value={one.id}
              group={taken ? one.id : ''}
              disabled={!choosable}
              aria-label={sentence('bench.use_source', {
                by: one.by,
                reference: one.reference || 'none',
              })}
              onchange={() => void bench.act('take_source', { group, source: one.id })}
            /></TableBodyCell
          >
          <TableBodyCell class="py-1 font-[inherit]"
            ><span class="block first-letter:uppercase">{one.by}</span>
            {#if one.reference}<span class="soft block text-sm font-normal">{one.reference}</span
              >{/if}
            {#if one.verdict === 'struck' || one.why}<span
                class="block text-sm font-normal text-caution"
                >{sentence('bench.not_valid', { why: one.why || 'none' })}</span
              >{:else if one.verdict === 'silent'}<span class="soft block text-sm font-normal"
                >{one.says}</span
              >{/if}</TableBodyCell
          >
          <TableBodyCell class="py-1 text-right font-[inherit]"
            >{figure(one.least_Nm)}</TableBodyCell
          >
          <TableBodyCell
            class="py-1 text-right font-[inherit] {one.verdict === 'struck' ? 'line-through' : ''}"
            title={one.says}>{figure(one.torque_Nm)}</TableBodyCell
          >
          <TableBodyCell class="py-1 text-right font-[inherit]">{figure(one.most_Nm)}</TableBodyCell
          >
          <TableBodyCell class="py-1 text-right"
            ><Word
              class="text-sm"
              label={sentence('bench.remove_source', { by: one.by })}
              onclick={() => bench.act('drop_source', { source: one.id })}>Remove</Word
            ></TableBodyCell
          >
        </TableBodyRow>
      {/each}
    </TableBody>
  </Table>
{/if}
