<script lang="ts">
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { clock, day } from '#lib/figures.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import { sentence } from '#lib/sentence.ts';

  /**
   * What the memories of tools say of this run: read from files afterwards, beside what was kept
   * while it went on.
   */
  let { run, names }: { run: string; names: Record<string, string> } = $props();
  const asked = new Asked<Schemas['ReadingsView']>();
  $effect(() => {
    const path = { id: run };
    void asked.ask(() => api.GET('/api/v1/runs/{id}/readings', { params: { path } }));
  });
  const view = $derived(asked.value);
  const figure = (value: number | null | undefined) =>
    value == null ? '–' : value.toPrecision(4).replace(/\.?0+$/, '');
</script>

{#if view?.count}
  <section class="mt-6">
    <h2 class="border-b border-ink pb-1">Readings from the memory of tools</h2>
    <p class="soft py-1 text-sm">
      {sentence('record.imported_readings', { count: view.count, people: view.by.join('; ') })}
    </p>
    <Fold
      title="The readings"
      more={view.count > view.lines.length
        ? sentence('record.first', { count: view.lines.length })
        : ''}
      open={view.count < 40}
    >
      <Table border={false} class="max-w-3xl text-sm">
        <TableHead>
          {#each ['Row of the file', 'Position', 'Bolt', 'Torque [N·m]', 'Angle [°]', 'At', 'Tool'] as words (words)}
            <TableHeadCell>{words}</TableHeadCell>
          {/each}
        </TableHead>
        <TableBody>
          {#each view.lines as line, i (i)}
            <TableBodyRow>
              <TableBodyCell>{line.row}</TableBodyCell>
              <TableBodyCell>{names[line.position ?? ''] ?? ''}</TableBodyCell>
              <TableBodyCell><b>{line.label}</b></TableBodyCell>
              <TableBodyCell>{figure(line.torque_Nm)}</TableBodyCell>
              <TableBodyCell>{figure(line.angle_deg)}</TableBodyCell>
              <TableBodyCell>{line.at ? `${day(line.at)} ${clock(line.at)}` : '–'}</TableBodyCell>
              <TableBodyCell>{line.serial}</TableBodyCell>
            </TableBodyRow>
          {/each}
        </TableBody>
      </Table>
    </Fold>
  </section>
{/if}
