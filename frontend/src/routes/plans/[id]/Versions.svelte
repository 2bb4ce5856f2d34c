<script lang="ts">
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import Button from 'flowbite-svelte/Button.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { api, problemText, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { clock, day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /**
   * Revisions and other drafts: opened, printed, compared with the draft; parts of them restored.
   */
  let { bench, onclose }: { bench: Bench; onclose: () => void } = $props();
  let open = $state(true);
  const path = $derived({ id: bench.id });
  const revisions = new Asked<Schemas['RevisionList']>();
  const aside = new Asked<Schemas['SideDraftList']>();
  const differing = new Asked<Schemas['DifferenceList']>();
  let shown = $state('');
  let against = $state('draft');
  const mine = $derived(session.may('planning.edit_draft'));
  const versions = $derived<[string, string][]>([
    ['draft', 'the draft'],
    ...(revisions.value?.items ?? []).map((r): [string, string] => [r.id, `revision ${r.number}`]),
  ]);
  void untrack(() => bench.save()).then(() => {
    void revisions.ask(() => api.GET('/api/v1/plans/{id}/revisions', { params: { path } }));
    void aside.ask(() => api.GET('/api/v1/plans/{id}/side-drafts', { params: { path } }));
  });

  async function compare(version: string) {
    shown = version;
    await bench.save();
    const query = { before: version, after: against };
    await differing.ask(() =>
      api.GET('/api/v1/plans/{id}/differences', { params: { path, query } }),
    );
  }
  async function takeOver(part: string) {
    await bench.takeOver(shown, part);
    await compare(shown);
  }
  async function putAway() {
    const { error } = await api
      .PUT('/api/v1/plans/{id}/put-away', { params: { path }, body: { away: true } })
      .catch(() => ({ error: {} }));
    if (error) bench.failed = problemText(error);
    else await goto(`/joints/${bench.view!.joint_id}`);
  }
</script>

{#snippet held(id: string)}
  <Word onclick={() => compare(id)}
    >{sentence('bench.compare_with', {
      version: versions.find(([v]) => v === against)?.[1] ?? '',
    })}</Word
  >
  {#if shown === id && differing.value}
    <ul class="mt-1 mb-2 grid gap-1 border-l-2 border-hairline pl-3 text-sm">
      {#each differing.value.items as one (one.path)}
        <li>
          {one.what}: <s class="soft">{one.before ?? 'not there'}</s> →
          <b>{one.after ?? 'not there'}</b>
          {#if mine && against === 'draft'}<Word onclick={() => takeOver(one.path)}
              >Restore into the draft</Word
            >{/if}
        </li>
      {:else}<li class="soft">Nothing differs.</li>{/each}
    </ul>
  {/if}
{/snippet}

<Modal bind:open title="Revisions of this plan" size="lg" {onclose}>
  <Failure text={revisions.failed || aside.failed || differing.failed || bench.failed} />
  <div class="w-56">
    <QuantityField
      label="Compare with"
      value={against}
      choices={versions}
      onchange={(v) => (against = v)}
    />
  </div>
  <h2 class="border-b border-ink pb-1">Revisions</h2>
  {#each revisions.value?.items ?? [] as one (one.id)}
    <div class="border-b py-1">
      <p class="flex flex-wrap items-baseline gap-x-4">
        <b>Revision {one.number}</b>
        <span class="soft"
          >{one.status}, {day(one.released_at)} {clock(one.released_at)}, {one.released_by}</span
        >
        <Word href="/api/v1/revisions/{one.id}/sheet.pdf">Print sheet, A4</Word>
        <Word href="/api/v1/revisions/{one.id}/sheet.pdf?paper=Letter">Print sheet, Letter</Word>
        <Word href="/api/v1/revisions/{one.id}/template.pdf">Print template 1:1</Word>
      </p>
      {#if one.reason}<p>{one.reason}</p>{/if}
      {#if one.taken_on.length}<p class="soft text-sm">Waived: {one.taken_on.join(' ')}</p>{/if}
      {@render held(one.id)}
    </div>
  {:else}<p class="soft">Nothing was released yet.</p>{/each}
  {#if aside.value?.items.length}
    <h2 class="mt-3 border-b border-ink pb-1">Other drafts</h2>
    <p class="soft text-sm">
      Another person had saved first; these entries were not saved to the plan.
    </p>
    {#each aside.value.items as one (one.id)}
      <div class="border-b py-1">
        <p>
          <b>{one.person}</b>
          <span class="soft"
            >{sentence('bench.from_draft', {
              at: `${day(one.at)} ${clock(one.at)}`,
              number: one.base_version,
            })}</span
          >
        </p>
        {@render held(one.id)}
      </div>
    {/each}
  {/if}
  {#if mine}
    <p class="flex justify-between">
      <Word onclick={putAway}>Archive plan</Word>
      <Button color="alternative" onclick={onclose}>Close</Button>
    </p>
  {/if}
</Modal>
