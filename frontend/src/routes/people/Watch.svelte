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
  import { clock, day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';

  /** What is watched: it only ever grows. */
  const asked = new Asked<Schemas['WatchList']>();
  let items = $state.raw<Schemas['WatchLine'][]>([]);
  async function load(before?: string) {
    const page = await asked.ask(() =>
      api.GET('/api/v1/security-events', { params: { query: { before, limit: 50 } } }),
    );
    if (page) items = before ? [...items, ...page.items] : page.items;
  }
  void load();
</script>

<section class="mt-8">
  <h2 class="border-b border-ink pb-1">
    Security log <span class="soft font-normal">· sign-ins, refusals, signatures, exports</span>
  </h2>
  <Failure text={asked.failed} />
  <div class="overflow-x-auto">
    <Table>
      <TableHead>
        <TableHeadCell>When</TableHeadCell><TableHeadCell>Who</TableHeadCell><TableHeadCell
          >What</TableHeadCell
        >
        <TableHeadCell>From</TableHeadCell>
      </TableHead>
      <TableBody>
        {#each items as one, i (i)}
          <TableBodyRow>
            <TableBodyCell class="whitespace-nowrap">{day(one.at)}, {clock(one.at)}</TableBodyCell>
            <TableBodyCell>{one.who}</TableBodyCell>
            <TableBodyCell class="whitespace-normal"
              >{one.kind}{one.words ? `: ${one.words}` : ''}</TableBodyCell
            >
            <TableBodyCell class="soft">{one.address}</TableBodyCell>
          </TableBodyRow>
        {/each}
      </TableBody>
    </Table>
  </div>
  {#if asked.value?.next}
    <Button color="alternative" class="mt-3" onclick={() => void load(asked.value!.next!)}
      >Earlier entries</Button
    >
  {/if}
</section>
