<script lang="ts">
  /** The mark of a severity, drawn: a square for stop, a triangle for caution, a dot for a note. */
  let { severity }: { severity: 'stop' | 'caution' | 'note' } = $props();
</script>

<svg viewBox="0 0 16 16" class="inline-block h-4 w-4 shrink-0" role="img" aria-label={severity}>
  {#if severity === 'stop'}
    <rect x="2" y="2" width="12" height="12" fill="var(--stop)" />
  {:else if severity === 'caution'}
    <path d="M8 1.5 15 14.500H1Z" fill="var(--caution)" />
  {:else}
    <circle cx="8" cy="8" r="4.5" fill="var(--soft)" />
  {/if}
</svg>
