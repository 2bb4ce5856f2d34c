<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Checkbox from 'flowbite-svelte/Checkbox.svelte';
  import Progressbar from 'flowbite-svelte/Progressbar.svelte';
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import { sentence } from '#lib/sentence.ts';
  import type { RegisterImport } from './register.svelte.ts';

  /** What a file would do, or did, row by row. */
  let { work }: { work: RegisterImport } = $props();
  const job = $derived(work.job!);
  const wrong = $derived(job.counts.wrong ?? 0);
  const asked = $derived(job.counts.ask ?? 0);
  let confirmed = $state(false);
  const DOES: Record<string, string> = { ask: 'question', wrong: 'error' };
  const changes = $derived((job.counts.new ?? 0) + (job.counts.changed ?? 0));
</script>

<section class="mt-5" aria-live="polite">
  {#if work.going}
    <p class="mb-1">
      {sentence('lists.row', {
        done: job.takes ? 'importing' : 'reading',
        row: job.done,
        total: job.total,
      })}
    </p>
    <Progressbar
      progress={String(Math.round((100 * job.done) / Math.max(1, job.total)))}
      size="h-2"
    />
    <Button color="alternative" class="mt-3" onclick={() => work.stop()}>Stop</Button>
  {:else if job.status === 'cancelled'}
    <p>Stopped: nothing was changed.</p>
  {:else}
    <h2>
      {job.takes && job.status === 'done'
        ? 'Imported'
        : job.takes
          ? 'Nothing was changed'
          : 'Preview'}: {job.words}
    </h2>
    {#if !job.takes}
      {#if wrong}<p class="my-2 font-semibold text-stop">
          {sentence('lists.wrong', { count: wrong })}
        </p>
      {:else if asked}
        <div class="my-2 grid gap-2">
          <Checkbox bind:checked={confirmed}>
            {sentence('lists.meant', { count: asked })}
          </Checkbox>
          <p><Button disabled={!confirmed} onclick={() => work.take(true)}>Import</Button></p>
        </div>
      {:else if changes}<p class="my-2"><Button onclick={() => work.take(false)}>Import</Button></p>
      {:else}<p class="my-2">Everything in it is here already.</p>{/if}
    {/if}
    <Table border={false}>
      <TableHead>
        {#each ['Row', 'Result', 'Tag', 'Column', 'Details'] as words, i (i)}<TableHeadCell
            >{words}</TableHeadCell
          >{/each}
      </TableHead>
      <TableBody>
        {#each job.rows as row (row.row)}
          <TableBodyRow>
            <TableBodyCell>{row.row}</TableBodyCell>
            <TableBodyCell class={row.does in DOES ? 'font-semibold text-stop' : ''}
              >{DOES[row.does] ?? row.does}</TableBodyCell
            >
            <TableBodyCell class="whitespace-nowrap">{row.what}</TableBodyCell>
            <TableBodyCell>{row.column}</TableBodyCell>
            <TableBodyCell>{row.words}</TableBodyCell>
          </TableBodyRow>
        {/each}
      </TableBody>
    </Table>
  {/if}
</section>
