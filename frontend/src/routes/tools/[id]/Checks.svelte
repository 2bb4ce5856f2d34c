<script lang="ts">
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { day, percent } from '#lib/figures.ts';
  import Mark from '#lib/parts/Mark.svelte';
  import TimeChart from '#lib/parts/TimeChart/TimeChart.svelte';
  import type { TimeData } from '#lib/parts/TimeChart/draw.ts';
  import { sentence } from '#lib/sentence.ts';
  import RangeChart from './RangeChart.svelte';

  /** The checks of a tool: its error over the range and over time, and every check. */
  let { detail, used }: { detail: Schemas['ToolDetail']; used: number[] } = $props();
  const known = $derived(
    detail.checks.filter((check) => check.error !== null && check.error !== undefined),
  );
  const last = $derived(known.find((check) => check.points.length));
  const before = $derived(
    known.find((check) => check !== last && check.verdict === 'pass' && check.points.length),
  );
  const signed = (share: number) =>
    `${share > 0 ? '+' : share < 0 ? '−' : ''}${percent(Math.abs(share), 1)}`;
  const earlier = (setting: string) =>
    before?.points.find((point) => point.setting === setting)?.mean ?? '–';
  const trend = $derived.by<TimeData>(() => {
    const checks = known.toReversed();
    const column = (of: (check: Schemas['CheckView']) => number | null | undefined) =>
      checks.map((check) => (of(check) ?? 0) * 100);
    const limit = column((check) => check.limit);
    return {
      times: checks.map((check) => check.at),
      series: [
        { values: column((check) => check.error), look: 'line' },
        { values: column((check) => check.worst), look: 'points' },
        { values: limit, look: 'limit' },
        { values: limit.map((value) => -value), look: 'limit' },
      ],
      label: (value) => `${value > 0 ? '+' : ''}${value} %`,
      symmetric: true,
    };
  });
</script>

{#if last}
  <section class="mb-7">
    <h2 class="border-b border-ink pb-1">
      Error over the range <span class="soft font-normal">delivered, % of setting</span>
    </h2>
    <RangeChart
      checks={known.filter((check) => check.points.length)}
      low={detail.tool.low_Nm}
      high={detail.tool.high_Nm}
      {used}
    />
    <Table border={false} class="mt-2">
      <TableHead>
        <TableHeadCell class="text-right">Set</TableHeadCell>
        {#if before}<TableHeadCell class="text-right">{day(before.at)}, mean</TableHeadCell>{/if}
        <TableHeadCell class="text-right">{day(last.at)}, mean</TableHeadCell>
        <TableHeadCell class="text-right">Difference</TableHeadCell>
        <TableHeadCell class="text-right">Worst deviation by ISO 6789-1</TableHeadCell>
      </TableHead>
      <TableBody>
        {#each last.points as point (point.setting)}
          <TableBodyRow>
            <TableBodyCell class="text-right font-bold">{point.setting}</TableBodyCell>
            {#if before}<TableBodyCell class="text-right">{earlier(point.setting)}</TableBodyCell
              >{/if}
            <TableBodyCell class="text-right">{point.mean}</TableBodyCell>
            <TableBodyCell class="text-right {point.verdict === 'pass' ? '' : 'font-bold'}"
              >{signed(point.difference)}</TableBodyCell
            >
            <TableBodyCell class="text-right">{signed(point.worst)}</TableBodyCell>
          </TableBodyRow>
        {/each}
      </TableBody>
    </Table>
  </section>
{/if}
<section class="mb-7">
  <h2 class="border-b border-ink pb-1">Checks and certificates</h2>
  <ul>
    {#each detail.checks as check (check.id)}
      <li class="border-b py-2">
        <p class="flex items-baseline gap-2">
          {#if check.verdict === 'fail'}<Mark severity="stop" />{/if}
          <span
            ><b>{day(check.at)}</b>, {check.words}{check.note ? `; ${check.note}` : ''}
            <span class="soft block text-sm">
              {[
                check.certificate && check.error != null && `certificate ${check.certificate}`,
                check.reference &&
                  sentence('tool.against', {
                    reference: check.reference,
                    uncertainty: check.uncertainty ? percent(check.uncertainty, 1) : 'none',
                  }),
                check.error != null && `mean ${signed(check.error)}`,
                check.worst != null &&
                  sentence('tool.at_worst', {
                    error: signed(check.worst),
                    limit: percent(check.limit ?? 0),
                  }),
                check.person,
              ]
                .filter(Boolean)
                .join(' · ')}
            </span></span
          >
        </p>
      </li>
    {:else}
      <li class="soft py-2">No check on record.</li>
    {/each}
  </ul>
  {#if known.length > 2}
    <TimeChart data={trend} label={sentence('tool.trend_chart', { trend: detail.trend.words })} />
  {/if}
  {#if known.length}<p class="soft my-1 text-sm">Trend: {detail.trend.words}.</p>{/if}
</section>
