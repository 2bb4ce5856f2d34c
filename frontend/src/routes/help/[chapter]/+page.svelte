<script lang="ts">
  import { page } from '$app/state';
  import { CHAPTERS } from '#lib/guide.ts';
  import PageHead from '#lib/parts/PageHead.svelte';
  import SideList from '#lib/parts/SideList.svelte';
  import Word from '#lib/parts/Word.svelte';

  /** The guide, a chapter at a time. */
  const chapter = $derived(CHAPTERS.find((one) => one.id === page.params.chapter));
  const LISTED = CHAPTERS.map(({ id, title }) => ({ id, words: title, href: `/help/${id}` }));
</script>

<svelte:head><title>{chapter?.title ?? 'Help'} · Help · Orthotorq</title></svelte:head>
<PageHead where={[['Help', '/help']]} title={chapter?.title ?? 'Help'}>
  {#snippet quiet()}<Word href="/tables?table=terms">Glossary</Word>{/snippet}
</PageHead>
<div class="page grid gap-8 md:grid-cols-[210px_minmax(0,1fr)]">
  <SideList label="Chapters" items={LISTED} chosen={chapter?.id ?? ''} />
  {#if chapter}
    <!-- eslint-disable-next-line svelte/no-at-html-tags -- made at build of our own files -->
    <article class="guide">{@html chapter.html}</article>
  {:else}
    <p class="soft">There is no such chapter; choose one on the left.</p>
  {/if}
</div>

<style>
  .guide {
    max-width: 46rem;
    line-height: 1.55;
  }
  .guide :global(h2) {
    margin: 1.6rem 0 0.5rem;
    padding-bottom: 0.2rem;
    border-bottom: 1px solid var(--ink);
  }
  .guide :global(p) {
    margin: 0.5rem 0;
  }
  .guide :global(ol) {
    list-style: decimal;
    padding-left: 1.9rem;
  }
  .guide :global(ul) {
    list-style: disc;
    padding-left: 1.4rem;
  }
  .guide :global(li) {
    margin: 0.35rem 0;
  }
  .guide :global(figure) {
    margin: 0.9rem 0;
  }
  .guide :global(img) {
    max-width: 100%;
    border: 1px solid var(--hairline);
    border-radius: 4px;
  }
  .guide :global(figcaption) {
    color: var(--soft);
    font-size: 0.9rem;
  }
  .guide :global(code) {
    border: 1px solid var(--rule);
    border-radius: 3px;
    padding: 0 0.35rem;
    font-size: 0.85rem;
  }
</style>
