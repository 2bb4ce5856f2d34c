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
  import PageHead from '#lib/parts/PageHead.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import { sentence } from '#lib/sentence.ts';

  /** A record that was read from a file: as it stood there, and marked as such. */
  const asked = new Asked<Schemas['ForeignView']>();
  const path = { id: page.params.id! };
  void asked.ask(() => api.GET('/api/v1/records/{id}', { params: { path } }));
  const view = $derived(asked.value);
  const file = $derived(view?.file);
  const names = $derived(Object.fromEntries((file?.positions ?? []).map((p) => [p.id, p.name])));
</script>

<svelte:head><title>Imported record {file?.run ?? ''} · Orthotorq</title></svelte:head>
{#if file}<PageHead
    where={[['Runs', '/runs'], [file.equipment], [file.joint]]}
    title={sentence('file.record_title', { number: file.run, title: file.title })}
    about="revision {file.revision}"
  />{/if}
<div class="page">
  <Failure text={asked.failed} />
  {#if view && file}
    <Notice role="status" severity={view.not_proved ? 'stop' : 'caution'} class="mt-3">
      <Sentence
        key={view.not_proved ? 'file.not_proved' : 'file.proved'}
        values={{
          person: view.person,
          day: day(view.at),
          time: clock(view.at),
          why: view.not_proved,
          count: file.events.length,
        }}
      />
    </Notice>
    {#each file.record.deviations as d (d.id)}
      <p class="mt-2 flex gap-2">
        <Mark severity={d.accepted_by ? 'note' : 'stop'} /><span
          >{d.text}
          <span class="soft"
            >{d.accepted_by
              ? sentence('run.accepted', { person: d.accepted_by, reason: d.reason })
              : 'not accepted yet'}</span
          ></span
        >
      </p>
    {/each}
    {#each file.record.tables as table (table.group + (table.position ?? ''))}
      <Bolts
        {table}
        group={file.groups.find((g) => g.id === table.group)!}
        position={names[table.position ?? '']}
      />
    {/each}
    <Story lines={(file.record.story ?? []).map((line) => ({ ...line, photo: null }))} {names} />
    <div class="mt-6 grid gap-8 lg:grid-cols-2">
      <Lines lines={file.record.lines} {names} />
      <section>
        <h2 class="border-b border-ink pb-1">Signatures</h2>
        {#each file.record.sign_offs as s (s.role)}
          <p class="border-b py-1">{s.role}: <b>{s.person}</b>, {day(s.at)} {clock(s.at)}</p>
        {:else}<p class="soft py-1">Not signed.</p>{/each}
        <p class="soft mt-3 text-sm">
          Head of the chain: <code class="text-xs break-all">{file.head_hash}</code>
        </p>
      </section>
    </div>
  {/if}
</div>
