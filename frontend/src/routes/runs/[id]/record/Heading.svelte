<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { clock, day } from '#lib/figures.ts';
  import Notice from '#lib/parts/Notice.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';

  /** Which run it is, how it stands, and the record as a file. */
  let { view }: { view: Schemas['RecordView'] } = $props();
  const record = $derived(view.record);
  const head = $derived(view.head);
  const about = $derived(
    [
      head.status_text,
      view.occasion_text,
      record.variants.join(', '),
      record.history === 'unknown' ? 'history unknown' : '',
      record.started
        ? `${day(record.started)} ${clock(record.started)} to ${clock(record.ended!)}`
        : '',
      record.people.join(', '),
    ].filter(Boolean),
  );
  const file = $derived(`/api/v1/runs/${head.id}/record`);
</script>

<PageHead
  where={[
    ['Equipment', '/equipment'],
    [head.equipment_name],
    [head.joint_name, `/joints/${head.joint_id}`],
  ]}
  title={sentence('record.title', { number: head.number, title: head.title })}
  about="revision {head.revision}"
>
  {#snippet quiet()}
    <span class="soft">Export</span>
    <Word label="Export PDF" href="{file}.pdf" target="_blank" rel="noopener">PDF</Word>
    <Word label="Export JSON" href="{file}.json" target="_blank" rel="noopener">JSON</Word>
    <Word label="Export CSV" href="{file}.csv" target="_blank" rel="noopener">CSV</Word>
    <Word label="Export XLSX" href="{file}.xlsx">XLSX</Word>
    <Word onclick={() => print()}>Print page</Word>
  {/snippet}
  {#snippet main()}
    {#if view.next_step}<Button href="/runs/{head.id}">{view.next_step}</Button>{/if}
  {/snippet}
</PageHead>
<div class="page-width pt-3">
  <p>{about.join(' · ')}</p>
  {#if view.not_proven}
    <Notice severity="stop" class="mt-2">
      <Sentence key="record.not_proven" values={{ why: view.not_proven ?? '' }} />
    </Notice>
  {/if}
</div>
