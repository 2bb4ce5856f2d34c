<script lang="ts">
  import { page } from '$app/state';
  import { api, must, type Schemas } from '#lib/api/client.ts';
  import { clock, day } from '#lib/figures.ts';
  import { STATUS } from '#lib/kinds.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import Chart from './Chart.svelte';

  let view = $state<Schemas['RecordView'] | null>(null);
  let error = $state('');
  const id = page.params.id!;
  api
    .GET('/api/v1/runs/{id}/record', { params: { path: { id } } })
    .then((answer) => (view = must(answer)))
    .catch((problem: Error) => (error = problem.message));

  const record = $derived(view?.record);
  const names = $derived(Object.fromEntries((view?.positions ?? []).map((p) => [p.id, p.name])));
  function looks(table: Schemas['GroupTable']) {
    return Object.fromEntries(
      table.rows.map((row) => {
        const at = row.cells.findLastIndex((c) => c !== null);
        const last = row.cells[at];
        const column = table.columns[at];
        const moved = column?.check && last?.answer === 'turned';
        const bad = (record?.deviations ?? []).some(
          (d) => d.step.split('/')[4] === row.place && d.step.split('/')[0] === (table.position ?? '-'),
        );
        return [
          row.place,
          { state: bad ? 'deviating' : moved ? 'moved' : last ? 'checked' : 'untouched', percent: last ? 100 : 0 },
        ];
      }),
    );
  }
  function worth(cell: Schemas['Cell'], column: Schemas['Column']): boolean {
    return (
      (column.check && cell.answer === 'turned') || ['refuses', 'turns_on', 'stopped_early', 'cap', 'skip'].includes(cell.answer)
    );
  }
</script>

<svelte:head><title>Record {view?.head.number ?? ''} · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-6xl px-6 py-5">
  {#if error}<p class="text-stop" role="alert">{error}</p>{/if}
  {#if view && record}
    <div class="flex flex-wrap items-start justify-between gap-4">
      <div>
        <p class="soft text-sm">{view.head.equipment_name} › {view.head.joint_name} · revision {view.head.revision}</p>
        <h1>Record of run {view.head.number}: {view.head.title}</h1>
        <p>
          {STATUS[record.status]}{record.occasion !== 'install' ? ` · ${record.occasion}` : ''}{record.variants.length
            ? ` · ${record.variants.join(', ')}`
            : ''}{record.history === 'unknown' ? ' · history unknown' : ''} · {record.started
            ? `${day(record.started)} ${clock(record.started)} to ${clock(record.ended!)}`
            : ''} · {record.people.join(', ')}
        </p>
      </div>
      <div class="no-print flex flex-wrap gap-2">
        {#if ['running', 'finished', 'signed'].includes(record.status)}<a class="act main" href="/runs/{id}"
            >{record.status === 'running' ? 'Go on' : 'Sign off'}</a
          >{/if}
        <a class="act" href="/api/v1/runs/{id}/record.pdf" target="_blank" rel="noopener">PDF</a>
        <a class="act" href="/api/v1/runs/{id}/record.json" target="_blank" rel="noopener">JSON</a>
        <button class="act" onclick={() => print()}>Print</button>
      </div>
    </div>

    {#if record.provisional}<p class="mt-3 flex gap-2 rounded border border-caution bg-caution-bg p-2">
        <Mark severity="caution" />Tightened by feel: provisional until it is rechecked with the right tool.
      </p>{/if}
    {#if view.compared}
      {@const c = view.compared}
      <p class="mt-3">
        Against <b>run {c.run}</b> of the same joint: {c.moved_now} of {c.checked_now} bolts moved in the check, then {c.moved_before}
        of {c.checked_before}; deviations {c.deviations_now}, then {c.deviations_before}.
        {#if c.both.length}<b class="text-caution"
            >Moved both times: {c.both.map((b) => b.replace('-/', '').replace('/', ' ')).join(', ')}.</b
          >{/if}
      </p>
    {/if}
    {#each record.conflicts as conflict (conflict.event)}
      <p class="mt-2 flex gap-2">
        <Mark severity={conflict.settled ? 'note' : 'caution'} /><span
          >Kept aside: {conflict.person}, {conflict.step}: {conflict.text}
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
      {@const group = view.groups.find((g) => g.id === table.group)!}
      <section class="mt-6">
        <h2 class="border-b border-ink pb-1">{table.name}{table.position ? `, ${names[table.position]}` : ''}</h2>
        <div class="mt-2 grid gap-6 lg:grid-cols-[210px_1fr]">
          <div>
            <div class="aspect-square w-full max-w-[210px]">
              <JointFace
                places={group.places}
                acrossFlats={group.thread.head_mm}
                looks={looks(table)}
                label="{table.name} after the last round"
              />
            </div>
            <Chart {table} wanted={group.target?.set_torque_Nm ?? null} />
          </div>
          <div class="overflow-x-auto">
            <table class="w-full text-sm">
              <thead
                ><tr class="border-b text-left align-bottom">
                  <th class="pr-3 text-right">Bolt</th>
                  {#each table.columns as column (column.id)}<th class="px-2 py-1 font-semibold"
                      >{column.title}{#if column.setting}<br /><span class="soft font-normal">{column.setting}</span>{/if}</th
                    >{/each}
                </tr></thead
              >
              <tbody>
                {#each table.rows as row (row.place)}
                  <tr class="border-b">
                    <td class="pr-3 text-right text-base font-bold">{row.label}</td>
                    {#each row.cells as cell, i (i)}
                      <td class="px-2 py-[3px] {cell && worth(cell, table.columns[i]!) ? 'bg-caution-bg' : ''}">
                        {#if cell}
                          <span class="whitespace-nowrap"
                            >{cell.torque ?? cell.text}{cell.angle ? `, ${cell.angle.replace(' deg', '°')}` : ''}</span
                          >
                          {#if cell.torque && cell.answer === 'did_not_turn'}<span class="soft">still</span>{/if}
                          {#if cell.corrected}<b class="text-caution">corrected</b>{/if}{#if cell.pulls > 1}<span class="soft"
                              >{cell.pulls} pulls</span
                            >{/if}{#if cell.attempt > 1}<span class="soft">attempt {cell.attempt}</span>{/if}
                        {:else}<span class="soft">–</span>{/if}
                      </td>
                    {/each}
                  </tr>
                {/each}
              </tbody>
            </table>
          </div>
        </div>
      </section>
    {/each}

    <div class="mt-6 grid gap-8 lg:grid-cols-2">
      <section>
        <h2 class="border-b border-ink pb-1">Conditions, items, checks, readings</h2>
        {#each record.lines as line, i (i)}
          <p class="flex gap-3 border-b py-1 text-sm">
            <span class="soft w-24 shrink-0">{line.stage}{line.position ? `, ${names[line.position]}` : ''}</span><span
              class="flex-1">{line.text}</span
            ><b>{line.answer}</b><span class="soft">{clock(line.at)}</span>
          </p>
        {:else}<p class="soft">None yet.</p>{/each}
      </section>
      <section>
        <h2 class="border-b border-ink pb-1">Tools, signatures, notes</h2>
        {#each record.tools as t (t.serial)}
          <p class="flex gap-2 border-b py-1">
            {#if t.expired}<Mark severity="stop" />{/if}<span
              ><b>{t.serial}</b>
              {t.calibrated_until ? `calibrated until ${t.calibrated_until}` : 'no calibration'}{t.expired
                ? ', out of calibration at the start'
                : ''} · {t.pulls} pulls</span
            >
          </p>
        {/each}
        {#each record.sign_offs as s (s.role)}
          <p class="border-b py-1">
            {s.role}: <b>{s.person}</b>, {day(s.at)}
            {clock(s.at)}<br /><code class="soft text-xs break-all">{s.head_hash}</code>
          </p>
        {:else}<p class="soft py-1">Not signed yet.</p>{/each}
        {#each record.notes as note, i (i)}<p class="border-b py-1 text-sm">
            <b>{note.kind}</b>
            {note.text}
            {#if note.photo}<a href="/api/v1/photos/{note.photo}" target="_blank" rel="noopener"
                ><img src="/api/v1/photos/{note.photo}" alt="of {note.step}" class="my-1 max-h-40 rounded border" /></a
              >{/if} <span class="soft">{note.person}, {clock(note.at)}</span>
          </p>{/each}
        {#each view.refusals as r, i (i)}<p class="border-b py-1 text-sm">
            <b>refused</b>
            {r.reason} <span class="soft">{r.person}, {clock(r.at)}</span>
          </p>{/each}
        <p class="soft mt-3 text-sm">
          Chain of {view.events} entries: {#if view.chain_holds}it holds{:else}<b class="text-stop">it does not hold</b>{/if}<br
          /><code class="text-xs break-all">{view.head_hash}</code>
        </p>
      </section>
    </div>
    <p class="soft mt-6 text-sm">
      Planning aid: the equipment maker's instructions, the code in force and a qualified person come first.{view.calculated
        ? ' At least one torque here was calculated and does not come from a maker.'
        : ''}
    </p>
  {/if}
</div>
