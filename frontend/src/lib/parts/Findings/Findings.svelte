<script lang="ts">
  import type { Schemas } from '../../api/client';
  import Mark from '../Mark.svelte';

  interface Props {
    /** Findings in the order of their weight. */
    findings: Schemas['FindingOut'][];
  }
  let { findings }: Props = $props();
</script>

<ul class="grid gap-2" aria-label="Findings">
  {#each findings as finding (finding.code + finding.where + finding.text)}
    <li class="finding {finding.severity}">
      <Mark severity={finding.severity} />
      <p>{finding.text} <span class="soft">{finding.severity === 'note' ? '' : finding.remedy}</span></p>
    </li>
  {:else}
    <li class="soft">Nothing found.</li>
  {/each}
</ul>

<style>
  .finding { display: flex; gap: 0.6rem; padding: 0.45rem 0.65rem; border: 1px solid var(--hairline); border-radius: 5px; background: var(--sheet); line-height: 1.35; font-size: 0.92rem; }
  .finding :global(svg) { margin-top: 2px; }
  .caution { background: var(--caution-bg); }
  .caution .soft, .stop .soft { color: var(--ink); opacity: 0.8; }
  .stop { background: var(--stop-bg); border-color: var(--stop); }
  .note { border-color: transparent; background: none; padding-block: 0.1rem; }
</style>
