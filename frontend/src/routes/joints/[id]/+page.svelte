<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { api, must, sentence, type Schemas } from '#lib/api/client.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import RegisterForm, { JOINT_FIELDS } from '#lib/parts/RegisterForm/RegisterForm.svelte';
  import { clock, day } from '#lib/figures.ts';
  import { KINDS, STATUS } from '#lib/kinds.ts';
  import { session } from '#lib/session.svelte.ts';
  import StartRun from './StartRun.svelte';

  let joint = $state<Schemas['JointView'] | null>(null);
  let error = $state('');
  let title = $state('');
  let starting = $state('');
  let changing = $state(false);
  const uid = $props.id();

  const path = { id: page.params.id! };
  const load = () =>
    api
      .GET('/api/v1/joints/{id}', { params: { path } })
      .then((answer) => (joint = must(answer)))
      .catch((problem: Error) => (error = problem.message));
  void load();

  async function keep(texts: Record<string, string>) {
    const body = { tag: texts.tag ?? '', name: texts.name ?? '', kind: texts.kind ?? '' };
    const { error: problem } = await api.PUT('/api/v1/joints/{id}', { params: { path }, body });
    if (problem) return problem;
    changing = false;
    await load();
  }

  async function begin(event: Event) {
    event.preventDefault();
    const { data, error: problem } = await api.POST('/api/v1/plans', { body: { joint: joint!.id, title } });
    if (data) await goto(`/plans/${data.id}`);
    else error = sentence(problem);
  }
</script>

<svelte:head><title>{joint?.name ?? 'Joint'} · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-5xl px-6 py-6">
  {#if joint}
    <p class="soft crumb text-sm"><a href="/equipment">Equipment</a> › {joint.equipment_name}</p>
    <h1>
      {joint.name} <span class="soft ml-1 text-base font-normal">{KINDS[joint.kind]}</span>
      {#if session.has('planner', 'administrator')}<button class="link ml-3 text-sm" onclick={() => (changing = true)}
          >change</button
        >{/if}
    </h1>
    {#if changing}
      <RegisterForm
        title="Change this joint"
        fields={JOINT_FIELDS}
        values={{ tag: joint.tag, name: joint.name, kind: joint.kind }}
        action="Keep it"
        send={keep}
        onclose={() => (changing = false)}
      />
    {/if}
    <p class="mb-4">{joint.summary}</p>
    {#if error}<p class="mb-3 text-stop" role="alert">{error}</p>{/if}
    <div class="grid gap-10 md:grid-cols-[300px_1fr]">
      <div class="aspect-square w-full max-w-[300px]">
        {#if joint.glyph}<JointFace
            places={joint.glyph.places}
            acrossFlats={joint.glyph.across_flats_mm}
            label="Joint to scale"
          />{/if}
      </div>
      <div class="grid content-start gap-6">
        <section>
          <h2 class="border-b border-ink pb-1">Plans</h2>
          {#each joint.plans as plan (plan.id)}
            <div class="flex flex-wrap items-center justify-between gap-3 border-b py-2">
              <p>
                <span class="font-semibold">{plan.title}</span><br />
                <span class="soft text-sm"
                  >{plan.revision_number
                    ? `revision ${plan.revision_number}, released ${day(plan.released_at!)}`
                    : 'not released yet'}</span
                >
              </p>
              <div class="flex flex-wrap gap-2">
                <a class="act" href="/plans/{plan.id}">Bench</a>
                {#if plan.revision_id}
                  <a class="act" href="/api/v1/revisions/{plan.revision_id}/sheet.pdf" target="_blank" rel="noopener"
                    >Sheet (PDF)</a
                  >
                  {#if session.has('fitter', 'supervisor')}
                    <button class="act main" onclick={() => (starting = plan.revision_id!)}>Start a run</button>
                  {/if}
                {/if}
              </div>
            </div>
          {:else}
            <p class="soft py-2">
              No plan yet. A planner begins one below; it opens on the Bench with a worked example to change.
            </p>
          {/each}
          {#if session.has('planner')}
            <form class="mt-3 flex items-end gap-2" onsubmit={begin}>
              <label for="{uid}-t" class="grid flex-1 gap-1 text-sm text-soft"
                >New plan, title
                <input id="{uid}-t" class="field" bind:value={title} maxlength="120" required /></label
              >
              <button class="act">Begin</button>
            </form>
          {/if}
        </section>
        <section>
          <h2 class="border-b border-ink pb-1">Runs</h2>
          {#each joint.runs as run (run.id)}
            <p class="flex justify-between border-b py-2">
              <span
                ><a class="font-semibold" href={run.status === 'running' ? `/runs/${run.id}` : `/runs/${run.id}/record`}
                  >Run {run.number}</a
                >, revision {run.revision}</span
              >
              <span class="soft">{STATUS[run.status]} · {day(run.started_at)} {clock(run.started_at)}</span>
            </p>
          {:else}
            <p class="soft py-2">Nothing was tightened yet.</p>
          {/each}
        </section>
      </div>
    </div>
  {:else if error}
    <p class="text-stop" role="alert">{error}</p>
  {/if}
</div>
{#if starting}<StartRun revision={starting} onclose={() => (starting = '')} />{/if}
