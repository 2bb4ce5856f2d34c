<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { day, digits } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /** What our own records teach: each with its evidence, and nothing of it taken by itself. */
  let { onkept }: { onkept: () => void } = $props();
  const asked = new Asked<Schemas['LessonList']>();
  const kept = new Asked<unknown>();
  let taken = $state('');
  void asked.ask(() => api.GET('/api/v1/lessons'));
  const anew = () => asked.ask(() => api.POST('/api/v1/lessons'));
  async function keep(one: Schemas['LessonView']) {
    const body = { kind: 'lubricant' as const, key: one.proposal_key, body: one.proposal as never };
    const found = await kept.ask(() => api.POST('/api/v1/own-entries', { body }));
    if (found === null) return;
    taken = one.title;
    onkept();
  }
  const band = (one: Schemas['LessonView']) =>
    `${[one.low, one.typical, one.high].map((v) => digits(v, 3)).join(' – ')} ${one.unit}`;
</script>

<div class="mb-3 flex flex-wrap items-center justify-between gap-3">
  <h2 class="!text-xl">Friction from our records</h2>
  {#if session.may('reference.look_anew')}<Button
      color="alternative"
      disabled={asked.busy}
      onclick={anew}>Refresh</Button
    >{/if}
</div>
<p class="soft mb-3">
  Gathered every night from runs and tests of this place. Nothing here changes a plan: a planner
  keeps a band as an own compound, and chooses it where it fits.
</p>
<Failure text={asked.failed || kept.failed} />
{#if taken}<p role="status" class="mb-3">{sentence('tables.saved', { compound: taken })}</p>{/if}
<Table border={false}>
  <TableHead>
    {#each ['About', 'Low – typical – high', 'Values', 'From, to', 'How it is found', ''] as words, i (i)}<TableHeadCell
        >{words}</TableHeadCell
      >{/each}
  </TableHead>
  <TableBody>
    {#each asked.value?.items ?? [] as one (one.kind + one.title)}
      <TableBodyRow>
        <TableBodyCell class="font-semibold">{one.title}</TableBodyCell>
        <TableBodyCell class="whitespace-nowrap">{band(one)}</TableBodyCell>
        <TableBodyCell>{one.count}</TableBodyCell>
        <TableBodyCell>{day(one.since)}, {day(one.until)}</TableBodyCell>
        <TableBodyCell>{one.words}</TableBodyCell>
        <TableBodyCell>
          {#if one.proposal && session.may('registers.save_own_entry')}<Word
              onclick={() => keep(one)}>Save as custom compound</Word
            >{/if}
        </TableBodyCell>
      </TableBodyRow>
    {:else}
      <TableBodyRow
        ><TableBodyCell colspan={6} class="soft"
          >{asked.value
            ? 'Too little is on record yet: a lesson needs ten values.'
            : ''}</TableBodyCell
        ></TableBodyRow
      >
    {/each}
  </TableBody>
</Table>
