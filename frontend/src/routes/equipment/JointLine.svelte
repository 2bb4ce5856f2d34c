<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import ConditionMark from '#lib/parts/Condition/ConditionMark.svelte';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import RunLink from '#lib/parts/RunLink.svelte';
  import { day, whole } from '#lib/figures.ts';
  import { sentence } from '#lib/sentence.ts';

  /** One joint of a machine: its glyph, what it is, how far its plan and its last run are. */
  let { joint }: { joint: Schemas['JointView'] } = $props();
  const COLOURS: Record<string, string> = { do_not_use: 'font-semibold text-stop', proven: 'soft' };
  const plan = $derived(joint.plans[0]);
  const run = $derived(joint.runs[0]);
</script>

<li class="grid grid-cols-[76px_1fr] items-center gap-5 border-b py-3 sm:grid-cols-[76px_1fr_auto]">
  <div class="h-[76px] w-[76px]">
    {#if joint.glyph}
      <JointFace
        places={joint.glyph.places}
        acrossFlats={joint.glyph.across_flats_mm}
        glyph
        label="Joint of {joint.summary}"
      />
    {:else}
      <div class="h-full w-full rounded-full border border-dashed"></div>
    {/if}
  </div>
  <div class="min-w-0">
    <p>
      <a href="/joints/{joint.id}" class="text-[1.1rem] font-bold">{joint.name}</a>
      <span class="soft ml-2">{joint.kind_text}</span>
    </p>
    <p>{joint.summary || 'No released plan yet.'}</p>
    {#if joint.dues[0]?.day && joint.dues[0].state !== 'later'}<p
        class="text-sm {joint.dues[0].state === 'overdue' ? 'font-semibold text-stop' : ''}"
      >
        {joint.dues[0].occasion_text}
        {joint.dues[0].state === 'overdue' ? 'overdue since' : 'due'}
        {whole(joint.dues[0].day)}
      </p>{/if}
    <p class="flex gap-2 text-sm {COLOURS[joint.condition.word] ?? ''}">
      <ConditionMark word={joint.condition.word} /><span>{joint.condition.words}</span>
    </p>
    <p class="soft text-sm">
      {#if plan?.revision_number}{sentence('plan.revision', {
          number: plan.revision_number,
          day: day(plan.released_at!),
        })}{:else if plan}draft only{/if}
      {#if run}· <RunLink {run}
          >{sentence('joint.last_run', { number: run.number, status: run.status_text })}</RunLink
        >{/if}
    </p>
  </div>
  <div class="col-span-2 flex gap-2 sm:col-span-1">
    {#if plan}<Button color="alternative" href="/plans/{plan.id}">Open Bench</Button>{/if}
    <Button color="alternative" href="/joints/{joint.id}">{joint.next_step.words}</Button>
  </div>
</li>
