<script lang="ts">
  import { page } from '$app/state';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Later from '#lib/parts/Later.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import Bolts from '#lib/parts/Record/Bolts.svelte';
  import Charts from '#lib/parts/Record/Charts.svelte';
  import Lines from '#lib/parts/Record/Lines.svelte';
  import Story from '#lib/parts/Record/Story.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import Tasks from '#lib/parts/Tasks/Tasks.svelte';
  import { sentence } from '#lib/sentence.ts';
  import Heading from './Heading.svelte';
  import Pulls from './Pulls.svelte';
  import Readings from './Readings.svelte';
  import Signed from './Signed.svelte';
  import Summary from './Summary.svelte';

  const path = { id: page.params.id! };
  const asked = new Asked<Schemas['RecordView']>();
  void asked.ask(() => api.GET('/api/v1/runs/{id}/record', { params: { path } }));
  const view = $derived(asked.value);
  const record = $derived(view?.record);
  const names = $derived(Object.fromEntries((view?.positions ?? []).map((p) => [p.id, p.name])));
</script>

<svelte:head><title>Record {view?.head.number ?? ''} · Orthotorq</title></svelte:head>
{#if view}<Heading {view} />{/if}
<div class="page !pt-0">
  <Failure text={asked.failed} />
  {#if view && record}
    <Summary lines={view.summary} />
    {#if record.provisional}<Notice role="status" class="mt-3"
        >{sentence('run.provisional', { why: (record.provisional_why ?? []).join('; ') })}</Notice
      >{/if}
    {#if view.compared}
      {@const c = view.compared}
      <p class="mt-3">
        <Sentence
          key="record.compared"
          values={{
            run: c.run,
            moved_now: c.moved_now,
            checked_now: c.checked_now,
            moved_before: c.moved_before,
            checked_before: c.checked_before,
            deviations_now: c.deviations_now,
            deviations_before: c.deviations_before,
          }}
        />
        {#if c.both.length}<b class="text-caution"
            >{sentence('record.both', { bolts: c.both.join(', ') })}</b
          >{/if}
      </p>
    {/if}
    {#each record.conflicts as conflict (conflict.event)}
      <p class="mt-2 flex gap-2">
        <Mark severity={conflict.settled ? 'note' : 'caution'} /><span
          >{sentence('record.conflict', { person: conflict.person, text: conflict.text })}
          <span class="soft"
            >{conflict.settled
              ? sentence('run.settled', { person: conflict.settled, reason: conflict.reason })
              : 'not settled yet'}</span
          ></span
        >
      </p>
    {/each}
    {#if record.deviations.length}
      <section class="mt-4">
        <h2>Deviations</h2>
        {#each record.deviations as d (d.id)}
          <p class="flex gap-2 border-b py-2">
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
      </section>
    {/if}
    <Later>
      {#each record.tables as table (table.group + (table.position ?? ''))}
        <Bolts
          {table}
          group={view.groups.find((g) => g.id === table.group)!}
          position={names[table.position ?? '']}
        />
      {/each}
      {#if record.readings?.length}
        <section class="mt-6">
          <h2 class="border-b border-ink pb-1">Readings between their limits</h2>
          <div class="grid gap-x-8 sm:grid-cols-2"><Charts charts={record.readings} /></div>
        </section>
      {/if}
      <Later>
        <Pulls run={path.id} {names} />
        <Readings run={path.id} {names} />
        <Story lines={record.story ?? []} {names} />
        <div class="mt-6 grid gap-8 lg:grid-cols-2">
          <Lines lines={record.lines} {names} />
          <Signed {view} />
          <Tasks id={view.head.joint_id} run={path.id} />
        </div>
      </Later></Later
    >
    <p class="soft mt-6 text-sm">
      {sentence('record.aid', { calculated: view.calculated ? 'yes' : 'no' })}
    </p>
  {/if}
</div>
