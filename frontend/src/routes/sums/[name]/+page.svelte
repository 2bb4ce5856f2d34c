<script lang="ts">
  import { page } from '$app/state';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Fold from '#lib/parts/Fold.svelte';
  import SideList from '#lib/parts/SideList.svelte';
  import Entry from './Entry.svelte';
  import Result from './Result.svelte';
  import { Sum } from './sum.svelte.ts';
  import PageHead from '#lib/parts/PageHead.svelte';

  const list = new Asked<Schemas['SumList']>();
  const typed = new Sum();
  void list.ask(() => api.GET('/api/v1/sums'));
  const sums = $derived(list.value?.items ?? []);
  const sum = $derived(sums.find((s) => s.name === page.params.name));
  const shown = $derived((sum?.fields ?? []).filter((f) => f.shown));
  const rest = $derived((sum?.fields ?? []).filter((f) => !f.shown));
  const hidden = $derived(
    rest
      .filter((f) => typed.texts[f.name])
      .map((f) => `${f.name} ${typed.texts[f.name]}`)
      .join(', '),
  );
  $effect(() => {
    // the page's own address: it changes with the question, not with what is typed
    if (sum)
      typed.begin(Object.fromEntries(page.url.searchParams), sum.begins as Record<string, string>);
  });
  $effect(() => {
    if (sum) void typed.ask(sum, { ...typed.texts });
  });
</script>

<svelte:head><title>{sum?.title ?? 'Quick sums'} · Quick sums · Orthotorq</title></svelte:head>
<PageHead
  where={[['Quick sums', '/sums'], [sum?.title ?? '']]}
  title={sum?.title ?? 'Quick sums'}
  about={sum?.words ?? ''}
/>
<div class="page grid gap-8 md:grid-cols-[190px_minmax(0,340px)_minmax(0,1fr)]">
  <SideList
    label="Quick sums"
    heading="Quick sums"
    items={sums.map((s) => ({ id: s.name, words: s.title, href: `/sums/${s.name}` }))}
    chosen={page.params.name ?? ''}
  />
  {#if sum}
    <section class="grid content-start gap-3">
      <p class="soft">Nothing is saved. The address of the page keeps the values.</p>
      {#each shown as field (field.name)}<Entry {typed} {field} />{/each}
      {#if rest.length}
        <Fold
          title=""
          more="more{hidden ? `: ${hidden}` : ''}"
          open={rest.some((f) => typed.errors[f.name])}
        >
          {#each rest as field (field.name)}<Entry {typed} {field} />{/each}
        </Fold>
      {/if}
    </section>
  {:else if list.value}
    <p class="soft">There is no such sum; choose one on the left.</p>
  {/if}
  <section class="min-w-0" aria-live="polite">
    <Failure text={list.failed || typed.failed} class="mb-3" />
    {#if sum && typed.found}<Result {sum} {typed} found={typed.found} />{/if}
  </section>
</div>
