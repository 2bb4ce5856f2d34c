<script lang="ts">
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import Word from '#lib/parts/Word.svelte';

  /** The sources of a group as the server ranks them; a valid one can be taken instead. */
  let { bench, group, sources }: { bench: Bench; group: string; sources: Schemas['SourceOut'][] } = $props();
</script>

{#if sources.length}
  <Table border={false}>
    <TableHead>
      <TableHeadCell>Source</TableHeadCell><TableHeadCell>says</TableHeadCell><TableHeadCell>is</TableHeadCell>
    </TableHead>
    <TableBody>
      {#each sources as one (one.id)}
        <TableBodyRow class={one.verdict === 'taken' ? 'bg-tint font-semibold' : ''}>
          <TableBodyCell class="font-[inherit]"
            >{one.by}{one.reference ? `, ${one.reference}` : ''}{#if one.why}<span class="soft block text-sm font-normal"
                >{one.why}</span
              >{/if}</TableBodyCell
          >
          <TableBodyCell class="font-[inherit] {one.verdict === 'struck' ? 'line-through' : ''}">{one.says}</TableBodyCell>
          <TableBodyCell class="font-[inherit] whitespace-nowrap">
            {#if one.verdict === 'valid' && one.torque_Nm}<Word
                class="text-sm"
                onclick={() => bench.act('take_source', { group, source: one.id })}>take</Word
              >{:else}{one.verdict}{/if}
            <Word
              class="ml-2 text-sm"
              label="Take out the source of the {one.by}"
              onclick={() => bench.act('drop_source', { source: one.id })}>out</Word
            >
          </TableBodyCell>
        </TableBodyRow>
      {/each}
    </TableBody>
  </Table>
{/if}
