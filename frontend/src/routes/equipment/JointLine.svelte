<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import { day } from '#lib/figures.ts';
  import { session } from '#lib/session.svelte.ts';
  import { KINDS, STATUS } from '#lib/kinds.ts';

  /** One joint of a machine: its glyph, what it is, how far its plan and its last run are. */
  let { joint }: { joint: Schemas['JointView'] } = $props();
  const plan = $derived(joint.plans[0]);
  const run = $derived(joint.runs[0]);
  const tightens = $derived(plan?.revision_id && session.has('fitter', 'supervisor'));
  const words = $derived(tightens ? 'Tighten' : !plan && session.has('planner') ? 'Begin a plan' : 'Open');
  const main = $derived(tightens ? 'main' : '');
</script>

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
        · last run <a href={run.status === 'running' ? `/runs/${run.id}` : `/runs/${run.id}/record`}>{run.number}</a>, {STATUS[
          run.status
        ]}
      {/if}
    </p>
  </div>
  <div class="col-span-2 flex gap-2 sm:col-span-1">
    {#if plan}<a class="act" href="/plans/{plan.id}">Bench</a>{/if}
    <a class="act {main}" href="/joints/{joint.id}">{words}</a>
  </div>
</li>
