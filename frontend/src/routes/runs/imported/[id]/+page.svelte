<script lang="ts">
  import { page } from '$app/state';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { clock, day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import Bolts from '#lib/parts/Record/Bolts.svelte';
  import Lines from '#lib/parts/Record/Lines.svelte';
  import Story from '#lib/parts/Record/Story.svelte';

  /** A record that was read from a file: as it stood there, and marked as such. */
  const asked = new Asked<Schemas['ForeignView']>();
  const path = { id: page.params.id! };
  void asked.ask(() => api.GET('/api/v1/records/{id}', { params: { path } }));
  const view = $derived(asked.value);
  const file = $derived(view?.file);
  const names = $derived(Object.fromEntries((file?.positions ?? []).map((p) => [p.id, p.name])));
</script>

<svelte:head><title>Imported record {file?.run ?? ''} · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-6xl px-6 py-5">
  <Failure text={asked.failed} />
  {#if view && file}
    <p class="soft text-sm">{file.equipment} › {file.joint} · revision {file.revision}</p>
    <h1>Imported record of run {file.run}: {file.title}</h1>
    <Notice role="status" class="mt-3"
      >Imported: read from a file by {view.person} on {day(view.at)} at {clock(view.at)}. Its chain of {file.events.length} entries
      holds; it is no run of this works, and its photos are not in the file.</Notice
    >
    {#each file.record.deviations as d (d.id)}
      <p class="mt-2 flex gap-2">
        <Mark severity={d.accepted_by ? 'note' : 'stop'} /><span
          >{d.text}
          <span class="soft">{d.accepted_by ? `accepted by ${d.accepted_by}: ${d.reason}` : 'not accepted yet'}</span></span
        >
      </p>
    {/each}
    {#each file.record.tables as table (table.group + (table.position ?? ''))}
      <Bolts {table} group={file.groups.find((g) => g.id === table.group)!} position={names[table.position ?? '']} />
    {/each}
    <Story lines={(file.record.story ?? []).map((line) => ({ ...line, photo: null }))} {names} />
    <div class="mt-6 grid gap-8 lg:grid-cols-2">
      <Lines lines={file.record.lines} {names} />
      <section>
        <h2 class="border-b border-ink pb-1">Signatures</h2>
        {#each file.record.sign_offs as s (s.role)}
          <p class="border-b py-1">{s.role}: <b>{s.person}</b>, {day(s.at)} {clock(s.at)}</p>
        {:else}<p class="soft py-1">Not signed.</p>{/each}
        <p class="soft mt-3 text-sm">Head of the chain: <code class="text-xs break-all">{file.head_hash}</code></p>
      </section>
    </div>
  {/if}
</div>
