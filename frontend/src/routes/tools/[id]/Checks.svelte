<script lang="ts">
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { day, percent } from '#lib/figures.ts';
  import ErrorChart from './ErrorChart.svelte';

  /** The checks of a tool, newest first, with their errors over time. */
  let { detail }: { detail: Schemas['ToolDetail'] } = $props();
  const known = $derived(detail.checks.filter((check) => check.error !== null && check.error !== undefined));
  const signed = (share: number) => `${share > 0 ? '+' : ''}${percent(share, 1)}`;
</script>

<section class="mb-7">
  <h2 class="border-b border-ink pb-1">Checks</h2>
  {#if known.length > 1}
    <ErrorChart checks={known} label="Error of each check over time, {detail.trend.words}" />
  {/if}
  {#if known.length}<p class="soft my-1 text-sm">Trend: {detail.trend.words}.</p>{/if}
  <Table border={false}>
    <TableHead>
      {#each ['Day', 'Mean error', 'At worst', 'Settings', 'Against', 'What came of it'] as words (words)}<TableHeadCell
          >{words}</TableHeadCell
        >{/each}
    </TableHead>
    <TableBody>
      {#each detail.checks as check (check.id)}
        <TableBodyRow>
          <TableBodyCell class="whitespace-nowrap">{day(check.at)}</TableBodyCell>
          <TableBodyCell>{check.error == null ? 'not measured' : signed(check.error)}</TableBodyCell>
          <TableBodyCell>{check.worst == null ? '' : `${signed(check.worst)} of ±${percent(check.limit ?? 0)}`}</TableBodyCell>
          <TableBodyCell>
            {#each check.points as point (point.setting)}<span class="block"
                >{point.setting}: {point.errors.map(signed).join(', ')}{point.verdict === 'pass'
                  ? ''
                  : `, ${point.verdict}`}</span
              >{/each}
          </TableBodyCell>
          <TableBodyCell>{check.reference}{check.uncertainty ? ` (±${percent(check.uncertainty, 1)})` : ''}</TableBodyCell>
          <TableBodyCell class={check.verdict === 'fail' ? 'font-semibold text-stop' : ''}
            >{check.words}{check.note ? `; ${check.note}` : ''}<span class="soft block text-sm">{check.person}</span
            ></TableBodyCell
          >
        </TableBodyRow>
      {:else}
        <TableBodyRow><TableBodyCell colspan={6} class="soft">It was never checked here.</TableBodyCell></TableBodyRow>
      {/each}
    </TableBody>
  </Table>
</section>
