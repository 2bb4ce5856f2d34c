<script lang="ts">
  import { api, must, type Schemas } from '#lib/api/client.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import { day } from '#lib/figures.ts';
  import { KINDS, STATUS } from '#lib/kinds.ts';

  let items = $state<Schemas['EquipmentView'][] | null>(null);
  let error = $state('');
  let sought = $state('');

  api
    .GET('/api/v1/equipment')
    .then((answer) => (items = must(answer).items))
    .catch((problem: Error) => (error = problem.message));

  const shown = $derived(
    (items ?? []).filter((e) =>
      [e.tag, e.name, e.area, ...e.joints.map((j) => j.name)].join(' ').toLowerCase().includes(sought.toLowerCase()),
    ),
  );
</script>

<svelte:head><title>Equipment · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-5xl px-6 py-6">
  <div class="mb-5 flex flex-wrap items-end justify-between gap-4">
    <div>
      <h1>Equipment</h1>
      <p class="soft">Vellmark Saltworks: machines and their bolted joints</p>
    </div>
    <label class="flex items-center gap-2 text-sm">Find <input class="field !w-56" bind:value={sought} /></label>
  </div>
  {#if error}<p class="text-stop" role="alert">{error}</p>{/if}
  {#each shown as machine (machine.id)}
    <section class="mb-6">
      <h2 class="border-b border-ink pb-1">{machine.name} <span class="soft ml-2 font-normal">{machine.tag} · {machine.area}</span></h2>
      <ul>
        {#each machine.joints as joint (joint.id)}
          {@const plan = joint.plans[0]}
          {@const run = joint.runs[0]}
          <li class="grid grid-cols-[76px_1fr] items-center gap-5 border-b py-3 sm:grid-cols-[76px_1fr_auto]">
            <div class="h-[76px] w-[76px]">
              {#if joint.glyph}
                <JointFace places={joint.glyph.places} acrossFlats={joint.glyph.across_flats_mm} glyph label="Joint of {joint.summary}" />
              {:else}
                <div class="h-full w-full rounded-full border border-dashed"></div>
              {/if}
            </div>
            <div class="min-w-0">
              <p>
                <a href="/joints/{joint.id}" class="text-[1.1rem] font-bold">{joint.name}</a>
                <span class="soft ml-2">{KINDS[joint.kind]}</span>
              </p>
              <p>{joint.summary || 'No released plan yet.'}</p>
              <p class="soft text-sm">
                {#if plan?.revision_number}revision {plan.revision_number}, released {day(plan.released_at!)}{:else if plan}draft only{/if}
                {#if run}
                  · last run <a href={run.status === 'running' ? `/runs/${run.id}` : `/runs/${run.id}/record`}>{run.number}</a>, {STATUS[run.status]}
                {/if}
              </p>
            </div>
            <div class="col-span-2 flex gap-2 sm:col-span-1">
              {#if plan}<a class="act" href="/plans/{plan.id}">Bench</a>{/if}
              <a class="act {plan?.revision_id ? 'main' : ''}" href="/joints/{joint.id}">{plan?.revision_id ? 'Tighten' : 'Begin a plan'}</a>
            </div>
          </li>
        {/each}
      </ul>
    </section>
  {:else}
    {#if items}<p class="soft">{items.length ? 'Nothing matches.' : 'No machines are registered yet.'}</p>{/if}
  {/each}
</div>
