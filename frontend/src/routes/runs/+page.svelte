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
  import RunLink from '#lib/parts/RunLink.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';
  import Word from '#lib/parts/Word.svelte';

  const page = new Asked<Schemas['RunList']>();
  let runs = $state<Schemas['RunHead'][]>([]);

  async function more() {
    const query = { limit: 30, before: page.value?.next ?? undefined };
    const found = await page.ask(() => api.GET('/api/v1/runs', { params: { query } }));
    if (found) runs = [...runs, ...found.items];
  }
  void more();
</script>

<svelte:head><title>Runs · Orthotorq</title></svelte:head>
<PageHead title="Runs" about="Every run of this place, newest first">
  {#snippet quiet()}<Word href="/runs/files">Import readings and records</Word>{/snippet}
</PageHead>
<div class="page">
  <Failure text={page.failed} />
  {#if runs.length}
    <Table border={false}>
      <TableHead>
        {#each ['Run', 'Joint', 'Plan', 'State', 'Started', 'By'] as words (words)}<TableHeadCell
            >{words}</TableHeadCell
          >{/each}
      </TableHead>
      <TableBody>
        {#each runs as run (run.id)}
          <TableBodyRow>
            <TableBodyCell class="py-2 pr-4"
              ><RunLink {run} class="font-bold">{run.number}</RunLink></TableBodyCell
            >
            <TableBodyCell class="py-2 pr-4">{run.equipment_name} › {run.joint_name}</TableBodyCell>
            <TableBodyCell class="py-2 pr-4">{run.title}, revision {run.revision}</TableBodyCell>
            <TableBodyCell class="py-2 pr-4"
              >{run.status_text}{#if run.provisional}, <b class="text-caution">provisional</b
                >{/if}</TableBodyCell
            >
            <TableBodyCell class="py-2 pr-4"
              >{day(run.started_at)} {clock(run.started_at)}</TableBodyCell
            >
            <TableBodyCell class="py-2 pr-4">{run.started_by}</TableBodyCell>
          </TableBodyRow>
        {/each}
      </TableBody>
    </Table>
    {#if page.value?.next}<Button color="alternative" class="mt-4" onclick={more}>Older runs</Button
      >{/if}
  {:else if page.value}
    <p class="soft">
      Nothing was tightened yet. Choose a joint in <a href="/equipment">Equipment</a> and start a run
      there.
    </p>
  {/if}
</div>
