<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { page } from '$app/state';
  import { api, BACKGROUND, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import { clock, day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import RegisterForm, { jointFields } from '#lib/parts/RegisterForm/RegisterForm.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { whileSeen } from '#lib/seen.ts';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';
  import Coming from './Coming.svelte';
  import Condition from './Condition.svelte';
  import History from './History.svelte';
  import Lanes from './Lanes.svelte';
  import Plans from './Plans.svelte';
  import Report from './Report.svelte';
  import StartRun from './StartRun.svelte';
  import Tasks from '#lib/parts/Tasks/Tasks.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';

  const path = { id: page.params.id! };
  const asked = new Asked<Schemas['JointView']>();
  const joint = $derived(asked.value);
  /** From a due date one comes with the revision and the occasion. */
  const asks = page.url.searchParams;
  let starting = $state(session.may('running.start_run') ? (asks.get('start') ?? '') : '');
  let history = $state(0);
  let changing = $state(false);
  const seen = new Asked<Schemas['ConditionView']>();
  const condition = $derived(seen.value);
  let reporting = $state<{
    act: 'opened' | 'replaced' | 'not-safe' | 'use-as-is';
    position: string;
  } | null>(null);
  let occasion = $state(asks.get('occasion') ?? '');
  const start = (revision: string, what = '') => {
    occasion = what;
    starting = revision;
  };
  const load = async () => {
    history++;
    void seen.ask(() => api.GET('/api/v1/joints/{id}/condition', { params: { path } }));
    return asked.ask(() => api.GET('/api/v1/joints/{id}', { params: { path } }));
  };
  void load();
  catalogue.need();
  $effect(() =>
    whileSeen(
      () =>
        void seen.ask(() =>
          api.GET('/api/v1/joints/{id}/condition', { params: { path }, headers: BACKGROUND }),
        ),
    ),
  );

  async function keep(texts: Record<string, string>, headers = {}) {
    const body = { tag: texts.tag ?? '', name: texts.name ?? '', kind: texts.kind ?? '' };
    const { error } = await api.PUT('/api/v1/joints/{id}', { params: { path }, body, headers });
    if (error) return error;
    changing = false;
    await load();
  }
</script>

<svelte:head><title>{joint?.name ?? 'Joint'} · Orthotorq</title></svelte:head>
{#if joint}
  <PageHead
    where={[
      ['Equipment', '/equipment'],
      [joint.equipment_name, `/machines/${joint.equipment_id}`],
    ]}
    title={joint.name}
    about={joint.summary || joint.kind_text}
  >
    {#snippet quiet()}
      {#if session.may('rechecking.note_opened')}
        <Word onclick={() => (reporting = { act: 'opened', position: '' })}>Report opened</Word>
        <Word onclick={() => (reporting = { act: 'not-safe', position: '' })}>Report not safe</Word>
      {/if}
      <Word href="/api/v1/joints/{joint.id}/tag.pdf" target="_blank" rel="noopener">Print tag</Word>
      <Word href="/api/v1/labels.pdf?what=joints&ids={joint.id}" target="_blank" rel="noopener"
        >Print label</Word
      >
      {#if session.may('running.joint_archive')}
        <Word href="/api/v1/joints/{joint.id}/everything.zip" download>Export joint</Word>
      {/if}
      {#if session.may('registers.change_joint')}<Word onclick={() => (changing = true)}
          >Edit joint</Word
        >{/if}
    {/snippet}
    {#snippet main()}
      {#if condition?.going}<Button href="/runs/{condition.going.id}"
          >{sentence('run.continue', { number: condition.going.number })}</Button
        >
      {:else if condition?.ended_early && !condition.ended_early.cannot_continue && session.may('running.append_events')}
        <Button href="/runs/{condition.ended_early.id}"
          >{sentence('run.continue', { number: condition.ended_early.number })}</Button
        >
      {:else if joint.plans[0]?.revision_id && session.may('running.start_run')}
        <Button onclick={() => start(joint.plans[0]!.revision_id!)}>Start run</Button>
      {/if}
    {/snippet}
  </PageHead>
{/if}
<div class="page">
  <Failure text={asked.failed || catalogue.failed || seen.failed} />
  {#if joint}
    {#if changing && catalogue.value}
      <RegisterForm
        title="Change this joint"
        fields={jointFields(catalogue.value.joint_kinds)}
        values={{ tag: joint.tag, name: joint.name, kind: joint.kind }}
        action="Save"
        send={keep}
        onclose={() => (changing = false)}
      />
    {/if}
    {#if condition}
      {#if condition.going}
        {@const going = condition.going}
        <Notice role="status" class="my-3">
          <p class="flex flex-wrap items-center justify-between gap-3">
            <span>
              <Sentence
                key="joint.run_going"
                values={{
                  number: going.number,
                  occasion: going.occasion.toLowerCase(),
                  person: going.person,
                  since: `${day(going.since)} ${clock(going.since)}`,
                }}
              />
            </span>
          </p>
        </Notice>
      {/if}
      {#if condition.ended_early}
        {@const ended = condition.ended_early}
        <Notice role="status" class="my-3">
          <p class="flex flex-wrap items-center justify-between gap-3">
            <span>
              <Sentence
                key="joint.run_ended"
                values={{
                  number: ended.number,
                  occasion: ended.occasion,
                  at: `${day(ended.at)} ${clock(ended.at)}`,
                }}
              />
              {ended.cannot_continue
                ? sentence('run.cannot_continue', { why: ended.cannot_continue })
                : ''}
            </span>
            {#if condition.going && !ended.cannot_continue && session.may('running.append_events')}
              <Button color="alternative" href="/runs/{ended.id}"
                >{sentence('run.continue', { number: ended.number })}</Button
              >
            {/if}
          </p>
        </Notice>
      {/if}
      <Condition
        view={condition}
        glyph={joint.glyph}
        onact={(act, position) => (reporting = { act, position })}
        onstart={start}
      />
      <Lanes view={condition} />
    {/if}
    <div class="mt-6 grid gap-x-10 gap-y-7 lg:grid-cols-[1.4fr_1fr]">
      <div class="grid content-start gap-6">
        <Plans {joint} onstart={start} onchange={() => void load()} />
        <Coming {joint} onchange={() => void load()} />
      </div>
      <div class="grid content-start gap-6">
        <Tasks id={joint.id} />
        {#key history}<History
            id={joint.id}
            onreplaced={() => (reporting = { act: 'replaced', position: '' })}
          />{/key}
      </div>
    </div>
  {/if}
</div>
{#if starting}<StartRun revision={starting} first={occasion} onclose={() => (starting = '')} />{/if}
{#if reporting}
  <Report
    id={path.id}
    {...reporting}
    positions={condition?.positions ?? []}
    fitted={condition?.fitted_in ?? null}
    onclose={() => (reporting = null)}
    onkept={() => void load()}
  />
{/if}
