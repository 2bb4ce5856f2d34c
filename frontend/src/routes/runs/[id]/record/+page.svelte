<script lang="ts">
  import { page } from '$app/state';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import Bolts from '#lib/parts/Record/Bolts.svelte';
  import Lines from '#lib/parts/Record/Lines.svelte';
  import Story from '#lib/parts/Record/Story.svelte';
  import Heading from './Heading.svelte';
  import Pulls from './Pulls.svelte';
  import Readings from './Readings.svelte';
  import Signed from './Signed.svelte';

  const path = { id: page.params.id! };
  const asked = new Asked<Schemas['RecordView']>();
  void asked.ask(() => api.GET('/api/v1/runs/{id}/record', { params: { path } }));
  const view = $derived(asked.value);
  const record = $derived(view?.record);
  const names = $derived(Object.fromEntries((view?.positions ?? []).map((p) => [p.id, p.name])));
</script>

<svelte:head><title>Record {view?.head.number ?? ''} · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-6xl px-6 py-5">
  <Failure text={asked.failed} />
  {#if view && record}
    <Heading {view} />
    {#if record.provisional}<Notice role="status" class="mt-3"
        >Provisional: {(record.provisional_why ?? []).join('; ')}. Only a proper run with the right tool lifts it.</Notice
      >{/if}
    {#if view.compared}
      {@const c = view.compared}
      <p class="mt-3">
        Against <b>run {c.run}</b> of the same joint: {c.moved_now} of {c.checked_now} bolts moved in the check, then {c.moved_before}
        of {c.checked_before}; deviations {c.deviations_now}, then {c.deviations_before}.
        {#if c.both.length}<b class="text-caution">Moved both times: {c.both.join(', ')}.</b>{/if}
      </p>
    {/if}
    {#each record.conflicts as conflict (conflict.event)}
      <p class="mt-2 flex gap-2">
        <Mark severity={conflict.settled ? 'note' : 'caution'} /><span
          >Kept aside: {conflict.person}: {conflict.text}
          <span class="soft">{conflict.settled ? `settled by ${conflict.settled}: ${conflict.reason}` : 'not settled yet'}</span
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
              <span class="soft">{d.accepted_by ? `accepted by ${d.accepted_by}: ${d.reason}` : 'not accepted yet'}</span></span
            >
          </p>
        {/each}
      </section>
    {/if}
    {#each record.tables as table (table.group + (table.position ?? ''))}
      <Bolts {table} group={view.groups.find((g) => g.id === table.group)!} position={names[table.position ?? '']} />
    {/each}
    <Pulls run={path.id} {names} />
    <Readings run={path.id} {names} />
    <Story lines={record.story ?? []} {names} />
    <div class="mt-6 grid gap-8 lg:grid-cols-2">
      <Lines lines={record.lines} {names} />
      <Signed {view} />
    </div>
    <p class="soft mt-6 text-sm">
      Planning aid: the equipment maker's instructions, the code in force and a qualified person come first.{view.calculated
        ? ' At least one torque here was calculated and does not come from a maker.'
        : ''}
    </p>
  {/if}
</div>
