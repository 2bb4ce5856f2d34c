<script lang="ts">
  import { page } from '$app/state';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Crumb from '#lib/parts/Crumb.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import RegisterForm, { jointFields } from '#lib/parts/RegisterForm/RegisterForm.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { session } from '#lib/session.svelte.ts';
  import Coming from './Coming.svelte';
  import History from './History.svelte';
  import Plans from './Plans.svelte';
  import Standing from './Standing.svelte';
  import StartRun from './StartRun.svelte';

  const path = { id: page.params.id! };
  const asked = new Asked<Schemas['JointView']>();
  const joint = $derived(asked.value);
  /** From a due date one comes with the revision and the occasion. */
  const asks = page.url.searchParams;
  let starting = $state(session.may('running.start_run') ? (asks.get('start') ?? '') : '');
  let history = $state(0);
  let changing = $state(false);
  const load = async () => {
    history++;
    return asked.ask(() => api.GET('/api/v1/joints/{id}', { params: { path } }));
  };
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
    <Crumb steps={[['Equipment', '/equipment'], [joint.equipment_name, `/machines/${joint.equipment_id}`], [joint.name]]} />
    <h1>
      {joint.name} <span class="soft ml-1 text-base font-normal">{joint.kind_text}</span>
      <a class="ml-3 text-sm" href="/api/v1/labels.pdf?what=joints&ids={joint.id}" target="_blank" rel="noopener">label (PDF)</a>
      {#if session.may('running.joint_archive')}
        <a class="ml-3 text-sm" href="/api/v1/joints/{joint.id}/everything.zip" download>all of it (ZIP)</a>
      {/if}
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
    <Coming {joint} onchange={() => void load()} />
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
        {#key history}<History id={joint.id} />{/key}
      </div>
    </div>
  {/if}
</div>
{#if starting}<StartRun revision={starting} first={asks.get('occasion') ?? ''} onclose={() => (starting = '')} />{/if}
