<script lang="ts">
  import { goto } from '$app/navigation';
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import { api, problemText, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import { day } from '#lib/figures.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /** The plans of a joint, and a new one. */
  interface Props {
    joint: Schemas['JointView'];
    /** Called with the revision that a run is to be started of. */
    onstart: (revision: string) => void;
    onchange: () => void;
  }
  let { joint, onstart, onchange }: Props = $props();
  const made = new Asked<Schemas['Created']>();
  let title = $state('');
  let start = $state('example');
  const uid = $props.id();

  async function begin(event: Event) {
    event.preventDefault();
    const plan = await made.ask(() =>
      api.POST('/api/v1/plans', { body: { joint: joint.id, title, empty: start === 'empty' } }),
    );
    if (plan) await goto(`/plans/${plan.id}`);
  }
  const copies = new Asked<Schemas['CopyList']>();
  let find = $state('');
  $effect(() => {
    if (start !== 'copy') return;
    const query = { find };
    void copies.ask(() =>
      api.GET('/api/v1/joints/{id}/plans-to-copy', { params: { path: { id: joint.id }, query } }),
    );
  });
  async function copy(id: string) {
    const plan = await made.ask(() =>
      api.POST('/api/v1/plans/{id}/copies', {
        params: { path: { id } },
        body: { joint: joint.id },
      }),
    );
    if (plan) await goto(`/plans/${plan.id}`);
  }
  async function bringBack(id: string) {
    const { error } = await api
      .PUT('/api/v1/plans/{id}/put-away', { params: { path: { id } }, body: { away: false } })
      .catch(() => ({ error: {} }));
    if (error) made.failed = problemText(error);
    else onchange();
  }
</script>

<section>
  <h2 class="border-b border-ink pb-1">Plans</h2>
  {#each joint.plans as plan (plan.id)}
    <div class="flex flex-wrap items-center justify-between gap-3 border-b py-2">
      <p class={plan.put_away ? 'soft' : ''}>
        <span class="font-semibold">{plan.title}</span>{#if plan.put_away}, archived
          {#if session.may('planning.put_away')}<Word onclick={() => bringBack(plan.id)}
              >Restore plan</Word
            >{/if}{/if}<br />
        <span class="soft text-sm"
          >{plan.revision_number
            ? sentence('plan.revision', {
                number: plan.revision_number,
                day: day(plan.released_at!),
              })
            : 'not released yet'}</span
        >
      </p>
      <div class="flex flex-wrap gap-2">
        <Button color="alternative" href="/plans/{plan.id}">Open Bench</Button>
        {#if plan.revision_id && !plan.put_away}
          <Button
            color="alternative"
            href="/api/v1/revisions/{plan.revision_id}/sheet.pdf"
            target="_blank"
            rel="noopener">Print sheet</Button
          >
          <Button
            color="alternative"
            href="/api/v1/revisions/{plan.revision_id}/template.pdf"
            target="_blank"
            rel="noopener"
            title="Bolts with their numbers, to lay on the joint">Print template 1:1</Button
          >
          {#if session.may('running.start_run')}
            <Button color="alternative" onclick={() => onstart(plan.revision_id!)}>Start run</Button
            >
          {/if}
        {/if}
      </div>
    </div>
  {:else}
    <p class="soft py-2">No plan yet. A planner creates one below; it opens on the Bench.</p>
  {/each}
  <Failure text={made.failed} class="mt-2" />
  {#if session.may('planning.create_plan')}
    <form class="mt-3 flex flex-wrap items-end gap-2" onsubmit={begin}>
      {#if start === 'copy'}
        <div class="min-w-52 flex-1">
          <QuantityField
            label="New plan, copied from"
            example="words of its title, joint, machine, size"
            value={find}
            onchange={(text) => (find = text)}
          />
        </div>
      {:else}
        <div class="grid min-w-52 flex-1 gap-1">
          <Label for="{uid}-t">New plan, title</Label>
          <Input id="{uid}-t" bind:value={title} maxlength={120} required />
        </div>
      {/if}
      <div class="w-52">
        <QuantityField
          label="Start from"
          value={start}
          choices={[
            ['example', 'an example of this kind'],
            ['empty', 'empty fields'],
            ['copy', 'a copy of another plan'],
          ]}
          onchange={(how) => (start = how)}
        />
      </div>
      {#if start !== 'copy'}<Button type="submit" color="alternative">Create plan</Button>{/if}
    </form>
    {#if start === 'copy'}
      <Failure text={copies.failed} class="mt-2" />
      {#each copies.value?.items ?? [] as one (one.id)}
        <p class="flex items-baseline justify-between gap-3 border-b py-1">
          <span
            ><b>{one.title}</b>
            <span class="soft text-sm"
              >{one.equipment} › {one.joint}, {one.number
                ? `revision ${one.number}`
                : 'draft'}</span
            ></span
          >
          <Word
            label={sentence('joint.copy_plan', { title: one.title, joint: one.joint })}
            onclick={() => copy(one.id)}>Copy plan</Word
          >
        </p>
      {:else}<p class="soft py-1">{sentence('joint.no_plan', { kind: joint.kind_text })}</p>{/each}
      <p class="soft mt-1 text-sm">
        Joint and title are replaced, everything else is copied. Release the copy here before it is
        used.
      </p>
    {/if}
  {/if}
</section>
