<script lang="ts">
  import { page } from '$app/state';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Crumb from '#lib/parts/Crumb.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import RegisterForm, { jointFields } from '#lib/parts/RegisterForm/RegisterForm.svelte';
  import RunLink from '#lib/parts/RunLink.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { clock, day } from '#lib/figures.ts';
  import { session } from '#lib/session.svelte.ts';
  import Plans from './Plans.svelte';
  import Standing from './Standing.svelte';
  import StartRun from './StartRun.svelte';

  const path = { id: page.params.id! };
  const asked = new Asked<Schemas['JointView']>();
  const joint = $derived(asked.value);
  let starting = $state('');
  let changing = $state(false);
  const load = () => asked.ask(() => api.GET('/api/v1/joints/{id}', { params: { path } }));
  void load();
  catalogue.need();

  async function keep(texts: Record<string, string>) {
    const body = { tag: texts.tag ?? '', name: texts.name ?? '', kind: texts.kind ?? '' };
    const { error } = await api.PUT('/api/v1/joints/{id}', { params: { path }, body });
    if (error) return error;
    changing = false;
    await load();
  }
</script>

<svelte:head><title>{joint?.name ?? 'Joint'} · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-5xl px-6 py-6">
  <Failure text={asked.failed || catalogue.failed} />
  {#if joint}
    <Crumb steps={[['Equipment', '/equipment'], [joint.equipment_name]]} />
    <h1>
      {joint.name} <span class="soft ml-1 text-base font-normal">{joint.kind_text}</span>
      {#if session.may('registers.change_joint')}<Word class="ml-3 text-sm" onclick={() => (changing = true)}>change</Word>{/if}
    </h1>
    {#if changing && catalogue.value}
      <RegisterForm
        title="Change this joint"
        fields={jointFields(catalogue.value.joint_kinds)}
        values={{ tag: joint.tag, name: joint.name, kind: joint.kind }}
        action="Keep it"
        send={keep}
        onclose={() => (changing = false)}
      />
    {/if}
    <p>{joint.summary}</p>
    <Standing {joint} onchange={() => void load()} />
    <div class="grid gap-10 md:grid-cols-[300px_1fr]">
      <div class="aspect-square w-full max-w-[300px]">
        {#if joint.glyph}<JointFace
            places={joint.glyph.places}
            acrossFlats={joint.glyph.across_flats_mm}
            label="Joint to scale"
          />{/if}
      </div>
      <div class="grid content-start gap-6">
        <Plans {joint} onstart={(revision) => (starting = revision)} onchange={() => void load()} />
        <section>
          <h2 class="border-b border-ink pb-1">Runs</h2>
          {#each joint.runs as run (run.id)}
            <p class="flex justify-between border-b py-2">
              <span><RunLink {run} class="font-semibold">Run {run.number}</RunLink>, revision {run.revision}</span>
              <span class="soft">{run.status_text} · {day(run.started_at)} {clock(run.started_at)}</span>
            </p>
          {:else}
            <p class="soft py-2">Nothing was tightened yet.</p>
          {/each}
        </section>
      </div>
    </div>
  {/if}
</div>
{#if starting}<StartRun revision={starting} onclose={() => (starting = '')} />{/if}
