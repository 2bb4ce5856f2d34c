<script lang="ts">
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { clock } from '#lib/figures.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import Charts from './Charts.svelte';

  /** Bolt by pass at one position, with its drawing and charts. */
  interface Props {
    table: Schemas['GroupTable'];
    group: Schemas['GroupOut'];
    position?: string;
  }
  let { table, group, position }: Props = $props();
  const looks = $derived(Object.fromEntries((table.bolts ?? []).map((b) => [b.place, b])));
</script>

<section class="mt-6">
  <h2 class="border-b border-ink pb-1">{table.name}{position ? `, ${position}` : ''}</h2>
  <div class="mt-2 grid gap-6 lg:grid-cols-[210px_1fr]">
    <div>
      <div class="aspect-square w-full max-w-[210px]">
        <JointFace places={group.places} acrossFlats={group.thread.head_mm} {looks} label="{table.name} after the last round" />
      </div>
      <Charts charts={table.charts ?? []} />
    </div>
    <Table border={false} class="w-full text-sm">
      <TableHead>
        <TableHeadCell class="text-right align-bottom">Bolt</TableHeadCell>
        {#each table.columns as column (column.id)}<TableHeadCell class="align-bottom font-semibold text-ink"
            >{column.title}{#if column.setting}<br /><span class="soft font-normal">{column.setting}</span>{/if}</TableHeadCell
          >{/each}
      </TableHead>
      <TableBody>
        {#each table.rows as row (row.place)}
          <TableBodyRow>
            <TableBodyCell class="pr-3 text-right text-base font-bold">{row.label}</TableBodyCell>
            {#each row.cells as cell, i (i)}
              <TableBodyCell class="py-[3px] {cell?.notable ? 'bg-caution-bg' : ''}">
                {#if cell}
                  <span class="whitespace-nowrap"
                    >{cell.torque ?? cell.text}{cell.angle ? `, ${cell.angle.replace(' deg', '°')}` : ''}</span
                  >
                  {#if cell.still}<span class="soft">still</span>{/if}
                  <span class="soft">{cell.person.split(' ')[0]}, {clock(cell.at)}</span>
                  {#if cell.measured}<span class="soft">measured</span>{/if}
                  {#if cell.whole}<b class="text-caution">whole round</b>{/if}
                  {#if cell.fast}<b class="text-caution">faster than a hand</b>{/if}
                  {#if cell.corrected}<b class="text-caution">corrected</b>{/if}
                  {#if cell.pulls > 1}<span class="soft">{cell.pulls} pulls</span>{/if}
                  {#if cell.attempt > 1}<span class="soft">attempt {cell.attempt}</span>{/if}
                {:else}<span class="soft">–</span>{/if}
              </TableBodyCell>
            {/each}
          </TableBodyRow>
        {/each}
      </TableBody>
    </Table>
  </div>
</section>
