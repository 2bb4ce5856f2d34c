<script lang="ts">
  import { replaceState } from '$app/navigation';
  import { page } from '$app/state';
  import { api, must, type Schemas } from '#lib/api/client.ts';
  import { session } from '#lib/session.svelte.ts';
  import HeadMarks from './HeadMarks.svelte';
  import OwnEntries from './OwnEntries.svelte';

  let sheets = $state<Schemas['Sheet'][]>([]);
  let edition = $state('');
  let own = $state<Schemas['OwnList'] | null>(null);
  let error = $state('');
  let sought = $state(page.url.searchParams.get('find') ?? '');
  let chosen = $state(page.url.searchParams.get('table') ?? 'threads');

  api
    .GET('/api/v1/table-sheets')
    .then((answer) => {
      const found = must(answer);
      sheets = found.items;
      edition = found.edition;
    })
    .catch((problem: Error) => (error = problem.message));
  const load = () => api.GET('/api/v1/own-entries').then((answer) => (own = must(answer)));
  void load();

  const sheet = $derived(sheets.find((s) => s.id === chosen));
  const matches = (s: Schemas['Sheet']) =>
    s.rows.filter((row) => row.join(' ').toLowerCase().includes(sought.trim().toLowerCase()));
  const rows = $derived(sheet ? matches(sheet) : []);
  const may = $derived(session.has('planner', 'supervisor'));

  function look(id: string) {
    chosen = id;
    note();
  }
  function note() {
    replaceState(`/tables?${new URLSearchParams({ table: chosen, ...(sought ? { find: sought } : {}) })}`, {});
  }
  async function store(lubricant: string, on: boolean) {
    const { data } = await api.POST('/api/v1/stock', { body: { lubricant, in_store: on } });
    if (data) own = data;
  }
</script>

<svelte:head><title>Tables · Orthotorq</title></svelte:head>
<div class="grid gap-6 px-6 py-5 md:grid-cols-[190px_minmax(0,1fr)]">
  <nav aria-label="Tables">
    <label class="mb-3 grid gap-1 text-sm text-soft"
      >Find in all tables <input class="field" bind:value={sought} oninput={note} /></label
    >
    <ul class="grid gap-[2px]">
      {#each [...sheets.map((s) => [s.id, s.title] as const), ['own', 'Own entries'] as const] as [id, title] (id)}
        {@const found = sheets.find((s) => s.id === id)}
        <li>
          <button
            class="flex w-full justify-between border-l-[3px] py-1 pl-3 text-left {id === chosen
              ? 'border-brine bg-tint font-semibold'
              : 'border-transparent hover:bg-tint'}"
            aria-current={id === chosen ? 'page' : undefined}
            onclick={() => look(id)}
          >
            {title}{#if sought.trim() && found}<span class="soft pr-2">{matches(found).length}</span>{/if}</button
          >
        </li>
      {/each}
    </ul>
    <p class="mt-4 text-sm"><a href="/sums/identify">Which thread is it?</a></p>
  </nav>
  <section class="min-w-0">
    {#if error}<p class="text-stop" role="alert">{error}</p>{/if}
    {#if chosen === 'own'}
      <OwnEntries {own} onchange={load} />
    {:else if sheet}
      <h1>{sheet.title}</h1>
      <p class="soft mb-3 text-sm">Edition {edition} · {sheet.source}</p>
      {#if sheet.id === 'marks'}<HeadMarks {rows} />{/if}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div
        class="max-h-[calc(100vh-11rem)] overflow-auto border-t border-ink"
        role="region"
        aria-label="Rows of the table"
        tabindex="0"
      >
        <table class="w-full text-[0.93rem]">
          <thead class="sticky top-0 bg-paper text-left text-sm"
            ><tr>
              {#each sheet.columns as column (column)}<th class="soft border-b px-2 py-1 font-normal">{column}</th>{/each}
              {#if sheet.id === 'lubricants'}<th class="soft border-b px-2 py-1 font-normal">in store</th>{/if}
            </tr></thead
          >
          <tbody>
            {#each rows as row (row.join('|'))}
              <tr class="border-b align-top">
                {#each row as cell, i (i)}<td
                    class="px-2 py-1 {i === 0 ? 'font-semibold whitespace-nowrap' : ''} {cell.includes(' – ')
                      ? 'whitespace-nowrap'
                      : ''} {['unsure', 'medium'].includes(cell) ? 'font-bold text-caution' : ''}">{cell}</td
                  >{/each}
                {#if sheet.id === 'lubricants'}
                  <td class="px-2 py-1 text-center"
                    ><input
                      type="checkbox"
                      aria-label="{row[1]} is in store"
                      disabled={!may}
                      checked={own?.in_store.includes(row[0]!)}
                      onchange={(e) => store(row[0]!, e.currentTarget.checked)}
                    /></td
                  >
                {/if}
              </tr>
            {:else}<tr><td class="soft px-2 py-2" colspan={sheet.columns.length}>Nothing matches “{sought}” here.</td></tr>{/each}
          </tbody>
        </table>
      </div>
    {/if}
  </section>
</div>
