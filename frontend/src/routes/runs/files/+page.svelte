<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, must, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { clock, day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import FilePick from '#lib/parts/FilePick.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';
  import Columns from './Columns.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';

  /**
   * Files into the records: readings from the memory of tools, and records of other installations.
   */
  let look = $state.raw<{ file: File; found: Schemas['FileLook'] } | null>(null);
  let failed = $state('');
  const kept = new Asked<Schemas['ForeignList']>();
  void kept.ask(() => api.GET('/api/v1/records'));
  const PICK =
    'inline-flex min-h-9 items-center rounded-[5px] border-[1.5px] border-ink px-3.5 font-semibold hover:bg-tint';

  const raw = (file: File, kind: string) => ({
    body: file as never,
    bodySerializer: (body: unknown) => body as never,
    headers: { 'Content-Type': kind },
  });
  async function readings(file: File) {
    look = null;
    failed = '';
    try {
      look = { file, found: must(await api.POST('/api/v1/readings/look', raw(file, 'text/csv'))) };
    } catch (problem) {
      failed = (problem as Error).message;
    }
  }
  async function record(file: File) {
    failed = '';
    try {
      const made = must(await api.POST('/api/v1/records', raw(file, 'application/octet-stream')));
      await goto(`/runs/imported/${made.id}`);
    } catch (problem) {
      failed = (problem as Error).message;
    }
  }
</script>

<svelte:head><title>Files · Orthotorq</title></svelte:head>
<PageHead where={[['Runs', '/runs'], ['Import']]} title="Import readings and records" />
<div class="page">
  <Failure text={failed} class="my-3" />
  <section class="mt-4">
    <h2>Readings from the memory of a tool</h2>
    <p class="soft mb-2">
      A table with one reading a row, CSV or XLSX, with a heading row. You choose what each column
      holds.
    </p>
    {#if session.may('running.start_readings')}
      <FilePick
        words="Choose a table …"
        accept=".csv,.txt,.tsv,.xlsx"
        onpick={readings}
        class={PICK}
      />
    {:else}<p class="soft">Planners, fitters and supervisors may import them.</p>{/if}
    {#if look}{#key look}<Columns file={look.file} look={look.found} />{/key}{/if}
  </section>
  <section class="mt-8">
    <h2>Records of other installations</h2>
    <p class="soft mb-2">
      The JSON file of a record. A record that was changed is refused; one that nobody here can
      prove is marked “not proved”.
    </p>
    {#if session.may('running.read_record_file')}
      <FilePick
        words="Choose a record …"
        accept=".json,application/json"
        onpick={record}
        class={PICK}
      />
    {:else}<p class="soft">Planners and supervisors may import them.</p>{/if}
    <ul class="mt-3 list-none p-0">
      {#each kept.value?.items ?? [] as one (one.id)}
        <li class="border-b py-1">
          <a href="/runs/imported/{one.id}"><b>Run {one.run}</b>: {one.title}</a>
          {#if !one.proved}<b class="text-stop">not proved</b>{/if}
          <span class="soft"
            >{sentence('file.imported_by', {
              person: one.person,
              at: `${day(one.at)} ${clock(one.at)}`,
            })}</span
          >
        </li>
      {:else}<li class="soft">None yet.</li>{/each}
    </ul>
  </section>
</div>
