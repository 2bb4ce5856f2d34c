<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Progressbar from 'flowbite-svelte/Progressbar.svelte';
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import { onDestroy, untrack } from 'svelte';
  import { api, must, type Schemas } from '#lib/api/client.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';

  /** Which column of a table holds what, and how far its reading is. */
  let { file, look }: { file: File; look: Schemas['FileLook'] } = $props();
  let columns = $state(untrack(() => ({ ...look.columns })));
  let units = $state(untrack(() => ({ ...look.units })));
  let run = $state('');
  let failed = $state('');
  let job = $state.raw<Schemas['JobView'] | null>(null);
  let waiting: ReturnType<typeof setTimeout> | undefined;
  onDestroy(() => clearTimeout(waiting));
  const [head, rows] = $derived([look.rows[0] ?? [], look.rows.slice(1)]);
  const WORDS: Record<string, string> = {
    time: 'time',
    serial: 'serial of the tool',
    run: 'number of the run',
  };
  const words = (kind: string) => WORDS[kind] ?? kind;
  const over = $derived(!!job && !['waiting', 'working'].includes(job.status));

  function take(kind: string, at: number) {
    columns = Object.fromEntries(
      Object.entries(columns).filter(([k, v]) => k !== kind && v !== at),
    );
    if (kind) columns = { ...columns, [kind]: at };
  }
  async function start() {
    failed = '';
    try {
      const how = JSON.stringify({ columns, units, run: Number(run) || null });
      const made = must(
        await api.POST('/api/v1/readings', {
          params: { query: { how } },
          body: file as never,
          bodySerializer: (body: unknown) => body as never,
          headers: { 'Content-Type': 'text/csv' },
        }),
      );
      await follow(made.id);
    } catch (problem) {
      failed = (problem as Error).message;
    }
  }
  async function follow(id: string) {
    const { data } = await api
      .GET('/api/v1/jobs/{id}', { params: { path: { id } } })
      .catch(() => ({ data: undefined }));
    if (data) job = data;
    if (!over) waiting = setTimeout(() => void follow(id), 400);
  }
  async function stop() {
    const { data } = await api.POST('/api/v1/jobs/{id}/cancel', {
      params: { path: { id: job!.id } },
    });
    if (data) job = data;
  }
  import Sentence from '#lib/parts/Sentence.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';
</script>

<div class="mt-3 overflow-x-auto">
  <Table border={false} class="text-sm">
    <TableHead>
      {#each head as title, at (at)}
        <TableHeadCell class="min-w-48 align-bottom">
          <b class="text-ink">{title}</b>
          <QuantityField
            label={sentence('file.column', { title })}
            shown="holds"
            value={Object.entries(columns).find(([, v]) => v === at)?.[0] ?? ''}
            choices={[
              ['', 'nothing of use'],
              ...look.kinds.map((k): [string, string] => [k, words(k)]),
            ]}
            onchange={(kind) => take(kind, at)}
          />
          {#each Object.keys(look.offered).filter((kind) => columns[kind] === at) as kind (kind)}
            <QuantityField
              label="Unit of {words(kind)}"
              shown="in"
              value={units[kind] ?? ''}
              choices={[
                ['', 'choose'],
                ...(look.offered[kind] ?? []).map((u): [string, string] => [u, u]),
              ]}
              onchange={(unit) => (units = { ...units, [kind]: unit })}
            />
          {/each}
        </TableHeadCell>
      {/each}
    </TableHead>
    <TableBody>
      {#each rows as row, i (i)}
        <TableBodyRow
          >{#each row as cell, at (at)}<TableBodyCell>{cell}</TableBodyCell>{/each}</TableBodyRow
        >
      {/each}
    </TableBody>
  </Table>
</div>
{#if !('run' in columns)}
  <div class="mt-3 w-60">
    <QuantityField
      label="Run of all rows"
      value={run}
      example="401"
      onchange={(text) => (run = text)}
    />
  </div>
{/if}
<p class="soft my-2 text-sm">
  {sentence('file.times', { place: session.place })}
</p>
<Failure text={failed} class="my-2" />
{#if !job}
  <Button onclick={start}>Import</Button>
{:else}
  <div role="status" class="grid max-w-2xl gap-2">
    {#if !over}
      <Progressbar
        progress={job.total ? Math.min(100, Math.round((100 * job.done) / job.total)) : 0}
        aria-label="How far it is"
      />
      <p>{sentence('file.rows', { done: job.done, total: job.total })}</p>
      <div><Button color="alternative" onclick={stop}>Stop</Button></div>
    {:else if job.status === 'cancelled'}
      <p>Stopped. Nothing of the file was saved.</p>
    {:else}
      <p>
        <Sentence
          key="file.readings"
          values={{ saved: job.imported, refused: job.done - job.imported }}
        />
      </p>
    {/if}
    {#each job.errors as wrong, i (i)}
      <p class="border-b text-sm"><b>{wrong.file}</b> {wrong.text}</p>
    {/each}
  </div>
{/if}
