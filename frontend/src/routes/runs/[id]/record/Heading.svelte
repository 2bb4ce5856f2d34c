<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { clock, day } from '#lib/figures.ts';

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
      record.started ? `${day(record.started)} ${clock(record.started)} to ${clock(record.ended!)}` : '',
      record.people.join(', '),
    ].filter(Boolean),
  );
  const file = $derived(`/api/v1/runs/${head.id}/record`);
</script>

<div class="flex flex-wrap items-start justify-between gap-4">
  <div>
    <p class="soft text-sm">{head.equipment_name} › {head.joint_name} · revision {head.revision}</p>
    <h1>Record of run {head.number}: {head.title}</h1>
    <p>{about.join(' · ')}</p>
  </div>
  <div class="no-print flex flex-wrap gap-2">
    {#if view.next_step}<Button href="/runs/{head.id}">{view.next_step}</Button>{/if}
    <Button color="alternative" href="{file}.pdf" target="_blank" rel="noopener">PDF</Button>
    <Button color="alternative" href="{file}.json" target="_blank" rel="noopener">JSON</Button>
    <Button color="alternative" href="{file}.csv" target="_blank" rel="noopener">CSV</Button>
    <Button color="alternative" href="{file}.xlsx">XLSX</Button>
    <Button color="alternative" onclick={() => print()}>Print</Button>
  </div>
</div>
