<script lang="ts">
  /** What happened to a bolt in a pass, in a sign. */
  let { kind }: { kind: 'done' | 'moved' | 'again' } = $props();
  const WORDS = { done: 'done', moved: 'moved', again: 'repeated' };
</script>

<svg
  width="15"
  height="15"
  viewBox="0 0 15 15"
  role="img"
  aria-label={WORDS[kind]}
  fill="none"
  stroke={kind === 'done' ? 'var(--load)' : 'var(--ink)'}
  stroke-width={kind === 'moved' ? 4 : 2}
>
  {#if kind === 'done'}<path d="M2 8l4 4 7-9" />
  {:else if kind === 'moved'}<path d="M1 7.5h13" />
  {:else}<path d="M11.5 4.2A5 5 0 1 0 12.5 8M12 1.5v3.4H8.6" />{/if}
</svg>
