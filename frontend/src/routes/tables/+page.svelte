<script lang="ts">
  import { untrack } from 'svelte';
  import { page } from '$app/state';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import SideList from '#lib/parts/SideList.svelte';
  import HeadMarks from './HeadMarks.svelte';
  import Lessons from './Lessons.svelte';
  import OwnEntries from './OwnEntries.svelte';
  import Rows from './Rows.svelte';
  import { LESSONS, OWN, Sheets } from './sheets.svelte.ts';
  import PageHead from '#lib/parts/PageHead.svelte';
  import Word from '#lib/parts/Word.svelte';

  const sheets = new Sheets(untrack(() => page.url.searchParams));
  catalogue.need();
  $effect(() => {
    const table = page.url.searchParams.get('table');
    if (table) untrack(() => (sheets.chosen = table));
  });
  const list = $derived([
    ...(sheets.list.value?.items ?? []).map((s) => ({
      id: s.id,
      words: s.title,
      href: sheets.address(s.id),
      note: sheets.sought.trim() ? String(sheets.matches(s).length) : '',
    })),
    { id: OWN, words: 'Custom entries', href: sheets.address(OWN) },
    { id: LESSONS, words: 'Friction from our records', href: sheets.address(LESSONS) },
  ]);
</script>

<svelte:head><title>Tables · Orthotorq</title></svelte:head>
<PageHead title="Tables" about={sheets.list.value ? `Edition ${sheets.list.value.edition}` : ''}>
  {#snippet quiet()}<Word href="/sums/identify">Identify a thread</Word>{/snippet}
</PageHead>
<div class="page grid gap-8 md:grid-cols-[190px_minmax(0,1fr)]">
  <div class="grid content-start gap-3">
    <QuantityField label="Find in all tables" value={sheets.sought} onchange={sheets.seek} />
    <SideList label="Tables" items={list} chosen={sheets.chosen} />
  </div>
  <section class="min-w-0">
    <Failure text={sheets.list.failed || sheets.own.failed || catalogue.failed} />
    {#if sheets.chosen === OWN}
      <OwnEntries {sheets} />
    {:else if sheets.chosen === LESSONS}
      <Lessons onkept={() => void sheets.load()} />
    {:else if sheets.sheet}
      <h2 class="!text-xl">{sheets.sheet.title}</h2>
      <p class="soft mb-3 text-sm">{sheets.sheet.source}</p>
      {#if sheets.sheet.id === 'marks'}<HeadMarks rows={sheets.rows} />{/if}
      <Rows {sheets} sheet={sheets.sheet} />
    {:else if sheets.list.value}<p class="soft">
        There is no such table. Choose one of the list.
      </p>{/if}
  </section>
</div>
