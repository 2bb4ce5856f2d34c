<script lang="ts">
  import Checkbox from 'flowbite-svelte/Checkbox.svelte';
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { sentence } from '#lib/sentence.ts';
  import { atDecimal } from '#lib/figures.ts';
  import { session } from '#lib/session.svelte.ts';
  import type { Sheets } from './sheets.svelte.ts';

  /** The rows of one shipped table; those that can be in store are ticked here. */
  let { sheets, sheet }: { sheets: Sheets; sheet: Schemas['Sheet'] } = $props();
  const may = $derived(session.may('registers.set_in_store'));
  const look = (cell: string, at: number) =>
    [
      at === 0 ? 'font-semibold whitespace-nowrap' : '',
      cell.includes(' – ') ? 'whitespace-nowrap' : '',
      at === sheet.certainty && cell !== 'sure' ? 'font-bold text-caution' : '',
    ].join(' ');
  const columns = $derived(
    sheet.columns.map((_, at) => atDecimal(sheets.rows.map((row) => row[at] ?? ''))),
  );
  /** A long table is drawn part by part, so that the page answers meanwhile. */
  const PART = 12;
  let drawn = $state(PART);
  $effect(() => {
    if (drawn >= sheets.rows.length) return;
    const next = requestAnimationFrame(() => (drawn += PART));
    return () => cancelAnimationFrame(next);
  });
</script>

<div role="region" aria-label="Rows of the table" class="border-t border-ink">
  <Table border={false} divClass="max-h-[calc(100vh-11rem)] overflow-auto" tabindex={0}>
    <TableHead class="sticky top-0 !bg-paper">
      {#each sheet.columns as column (column)}<TableHeadCell>{column}</TableHeadCell>{/each}
      {#if sheet.stock}<TableHeadCell>in stock</TableHeadCell>{/if}
    </TableHead>
    <TableBody>
      {#each sheets.rows.slice(0, drawn) as row, at (row.join('|'))}
        <TableBodyRow>
          {#each row as cell, i (i)}<TableBodyCell class={look(cell, i)}
              >{columns[i]?.[at] ?? cell}</TableBodyCell
            >{/each}
          {#if sheet.stock}
            <TableBodyCell
              ><Checkbox
                aria-label={sentence('tables.in_stock', { row: row[1] ?? '' })}
                disabled={!may}
                checked={sheets.own.value?.in_store.includes(row[0]!) ?? false}
                onchange={(ev) => sheets.store(row[0]!, ev.currentTarget.checked)}
              /></TableBodyCell
            >
          {/if}
        </TableBodyRow>
      {:else}<TableBodyRow
          ><TableBodyCell class="soft" colspan={sheet.columns.length}
            >{sentence('tables.nothing', { words: sheets.sought })}</TableBodyCell
          ></TableBodyRow
        >{/each}
    </TableBody>
  </Table>
</div>
