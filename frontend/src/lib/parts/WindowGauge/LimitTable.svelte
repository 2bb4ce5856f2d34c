<script lang="ts">
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { kN } from '../../figures';
  import Word from '../Word.svelte';
  import type { GaugeScale, Lettered, Limit } from './scale.svelte';

  /**
   * The limits in the order of their value with the target between them; those that are farther
   * away are folded.
   */
  interface Props {
    gauge: GaugeScale;
    /** Clamp load at typical friction [N]. */
    typical: number;
    target: string;
    onopen?: (figure: string) => void;
    onfield?: (limit: Limit) => void;
  }
  let { gauge, typical, target, onopen, onfield }: Props = $props();
  let all = $state(false);
  type Row = (Limit & { letter?: string }) | null;
  /** Null is the target. */
  const rows = $derived.by<Row[]>(() => {
    const shown: (Lettered | Limit)[] = [...gauge.limits, ...(all ? gauge.others : [])];
    shown.sort((a, b) => a.clamp_N - b.clamp_N);
    const under = shown.filter((limit) => limit.clamp_N < typical);
    return [...under, null, ...shown.slice(under.length)];
  });
  const nearest = $derived(
    gauge.others.toSorted(
      (a, b) => Math.abs(a.clamp_N - typical) - Math.abs(b.clamp_N - typical),
    )[0],
  );
</script>

<Table border={false} class="text-sm">
  <TableHead>
    <TableHeadCell class="w-6 py-0.5"><span class="sr-only">Letter</span></TableHeadCell>
    <TableHeadCell class="py-0.5">Limit</TableHeadCell>
    <TableHeadCell class="py-0.5 text-right">kN</TableHeadCell>
    <TableHeadCell class="py-0.5">Set by</TableHeadCell>
  </TableHead>
  <TableBody>
    {#each rows as row (row?.id ?? '')}
      {#if row}
        {@const governs = gauge.governs(row)}
        <TableBodyRow class="align-middle {governs ? 'font-bold' : ''}">
          <TableBodyCell class="py-0 font-bold">{row.letter ?? ''}</TableBodyCell>
          <TableBodyCell class="py-0 font-[inherit]"
            ><Word
              class="text-left whitespace-normal !text-ink {governs ? '' : 'font-normal'}"
              title="Show working"
              onclick={() => onopen?.(`limit/${row.id}`)}
              ><span class="first-letter:uppercase">{row.name}</span></Word
            ></TableBodyCell
          >
          <TableBodyCell class="py-0 text-right font-[inherit]">{kN(row.clamp_N)}</TableBodyCell>
          <TableBodyCell class="py-0 font-normal"
            >{#if onfield && row.set_by}<Word
                class="text-left font-normal whitespace-normal !text-soft"
                title="Go to the field"
                onclick={() => onfield(row)}>{row.set_by}</Word
              >{:else}<span class="soft">{row.set_by}</span>{/if}</TableBodyCell
          >
        </TableBodyRow>
      {:else}
        <TableBodyRow class="bg-tint align-middle font-bold">
          <TableBodyCell class="py-0"></TableBodyCell>
          <TableBodyCell class="py-0 font-[inherit]">Target</TableBodyCell>
          <TableBodyCell class="py-0 text-right font-[inherit]">{kN(typical)}</TableBodyCell>
          <TableBodyCell class="py-0 font-[inherit]">{target}</TableBodyCell>
        </TableBodyRow>
      {/if}
    {/each}
  </TableBody>
</Table>
{#if gauge.others.length}
  <p class="mt-1 flex flex-wrap items-baseline justify-between gap-x-3 text-sm">
    <span class="soft"
      >{sentence('gauge.more_limits', {
        count: gauge.others.length,
        nearest: nearest && !all ? kN(nearest.clamp_N) : 'none',
      })}</span
    >
    <Word onclick={() => (all = !all)}>{all ? 'Show nearest limits' : 'Show all limits'}</Word>
  </p>
{/if}
