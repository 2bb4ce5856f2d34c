<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Progressbar from 'flowbite-svelte/Progressbar.svelte';
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import type { RegisterImport } from './register.svelte.ts';

  /** What a file would do, or did, row by row. */
  let { work }: { work: RegisterImport } = $props();
  const job = $derived(work.job!);
  const wrong = $derived(job.counts.wrong ?? 0);
  const changes = $derived((job.counts.new ?? 0) + (job.counts.changed ?? 0));
</script>

<section class="mt-5" aria-live="polite">
  {#if work.going}
    <p class="mb-1">{job.takes ? 'Taking' : 'Looking at'} row {job.done} of {job.total} …</p>
    <Progressbar progress={String(Math.round((100 * job.done) / Math.max(1, job.total)))} size="h-2" />
    <Button color="alternative" class="mt-3" onclick={() => work.stop()}>Stop</Button>
  {:else if job.status === 'cancelled'}
    <p>Stopped: nothing was changed.</p>
  {:else}
    <h2>{job.takes && job.status === 'done' ? 'Taken' : job.takes ? 'Nothing was changed' : 'It would do this'}: {job.words}</h2>
    {#if !job.takes}
      {#if wrong}<p class="my-2 font-semibold text-stop">
          {wrong}
          {wrong === 1 ? 'row is' : 'rows are'} wrong: put right first, nothing is taken in part.
        </p>
      {:else if changes}<p class="my-2"><Button onclick={() => work.take()}>Take it</Button></p>
      {:else}<p class="my-2">Everything in it is here already.</p>{/if}
    {/if}
    <Table border={false}>
      <TableHead>
        {#each ['Row', '', 'Which', 'What'] as words, i (i)}<TableHeadCell>{words}</TableHeadCell>{/each}
      </TableHead>
      <TableBody>
        {#each job.rows as row (row.row)}
          <TableBodyRow>
            <TableBodyCell>{row.row}</TableBodyCell>
            <TableBodyCell class={row.does === 'wrong' ? 'font-semibold text-stop' : ''}>{row.does}</TableBodyCell>
            <TableBodyCell>{row.what}</TableBodyCell>
            <TableBodyCell>{row.words}</TableBodyCell>
          </TableBodyRow>
        {/each}
      </TableBody>
    </Table>
  {/if}
</section>
