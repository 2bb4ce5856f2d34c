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
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import CellMark from './CellMark.svelte';
  import Charts from './Charts.svelte';

  /**
   * One line a bolt at one position, exceptions marked; a bolt that is chosen tells its own story
   * below.
   */
  interface Props {
    table: Schemas['GroupTable'];
    group: Schemas['GroupOut'];
    position?: string;
  }
  let { table, group, position }: Props = $props();
  type Cell = Schemas['Cell'];
  const looks = $derived(Object.fromEntries((table.bolts ?? []).map((b) => [b.place, b])));
  const notes = $derived(table.notes ?? []);
  let chosen = $state('');
  let times = $state(false);
  const row = $derived(table.rows.find((one) => one.place === chosen));
  const told = (cell: Cell) =>
    [cell.text, cell.torque, cell.angle?.replace(' deg', '°'), cell.value]
      .filter(Boolean)
      .join(', ');
  const figures = (cell: Cell) =>
    [cell.torque?.replace(' N·m', ''), cell.value].filter(Boolean).join(' ');
</script>

<section class="mt-6">
  <h2 class="border-b border-ink pb-1">{table.name}{position ? `, ${position}` : ''}</h2>
  <div class="mt-2 grid gap-6 lg:grid-cols-[250px_minmax(0,1fr)]">
    <div>
      <div class="aspect-square w-full max-w-[250px]">
        <JointFace
          places={group.places}
          acrossFlats={group.thread.head_mm}
          {looks}
          {notes}
          label={sentence('record.after_last', { group: table.name })}
        />
      </div>
      {#each notes as note (note.place + note.where)}
        <p class="text-sm"><b>{note.label}</b> {note.where}: {note.text}</p>
      {/each}
      <Charts charts={table.charts ?? []} />
    </div>
    <div class="min-w-0 overflow-x-auto">
      <p class="soft mb-1 flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
        <span class="flex items-center gap-1"><CellMark kind="done" /> done, not measured</span>
        <span class="flex items-center gap-1"><CellMark kind="moved" /> moved</span>
        <span class="flex items-center gap-1"><CellMark kind="again" /> repeated</span>
        <Word class="no-print ml-auto" onclick={() => (times = !times)}
          >{times ? 'Hide times' : 'Show times'}</Word
        >
      </p>
      <Table border={false} class="w-full text-sm">
        <TableHead>
          <TableHeadCell class="text-right align-bottom">Bolt</TableHeadCell>
          {#each table.columns as column (column.id)}<TableHeadCell
              class="align-bottom font-semibold text-ink"
              >{column.title}{#if column.setting}<br /><span class="soft font-normal"
                  >{column.setting}</span
                >{/if}</TableHeadCell
            >{/each}
        </TableHead>
        <TableBody>
          {#each table.rows as one (one.place)}
            <TableBodyRow
              class="cursor-pointer {one.place === chosen ? 'bg-tint' : ''}"
              onclick={() => (chosen = one.place === chosen ? '' : one.place)}
            >
              <TableBodyCell class="py-[2px] pr-3 text-right"
                ><button
                  type="button"
                  class="min-h-(--word-height) min-w-(--word-height) text-right font-bold"
                  aria-pressed={one.place === chosen}>{one.label}</button
                ></TableBodyCell
              >
              {#each one.cells as cell, i (i)}
                <TableBodyCell
                  class="py-[2px] whitespace-nowrap {cell?.notable ? 'bg-caution-bg' : ''}"
                >
                  {#if cell}
                    <span class="inline-flex items-center gap-1.5">
                      {#if figures(cell)}{figures(cell)}{:else if !cell.notable}<CellMark
                          kind="done"
                        />{/if}
                      {#if cell.angle}<span class="soft">{cell.angle.replace(' deg', '°')}</span
                        >{/if}
                      {#if cell.notable && !cell.moved}<b class="text-caution">{cell.text}</b>{/if}
                      {#if cell.moved}<CellMark kind="moved" />{/if}
                      {#if cell.attempt > 1 || cell.pulls > 1}<CellMark kind="again" />{/if}
                      {#if cell.fast}<b class="text-caution">faster than a hand</b>{/if}
                      {#if cell.corrected}<b class="text-caution">corrected</b>{/if}
                      {#if cell.whole}<b class="text-caution">whole round</b>{/if}
                      {#if times}<span class="soft">{clock(cell.at)}</span>{/if}
                    </span>
                  {:else}<span class="soft">–</span>{/if}
                </TableBodyCell>
              {/each}
            </TableBodyRow>
          {/each}
        </TableBody>
      </Table>
      {#if row}
        <p class="mt-1 bg-tint px-3 py-2 text-sm" role="status">
          <b>Bolt {row.label}</b>
          {#each row.cells as cell, i (i)}{#if cell}
              · <span class="soft">{clock(cell.at)}</span>
              {table.columns[i]?.title}: {told(cell)}
              <span class="soft">({cell.person})</span>{/if}{/each}
        </p>
      {/if}
    </div>
  </div>
</section>
