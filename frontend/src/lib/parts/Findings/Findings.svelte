<script lang="ts">
  import type { Schemas } from '../../api/client';
  import Mark from '../Mark.svelte';

  type Finding = Schemas['FindingOut'];
  interface Props {
    /** Findings in the order of their weight. */
    findings: Finding[];
    /** Take a waivable stop on, with a reason; without it nothing can be waived here. */
    onwaive?: (finding: Finding, reason: string) => void;
  }
  let { findings, onwaive }: Props = $props();
  const open = $derived(findings.filter((f) => !f.waived && f.severity !== 'note'));
  const notes = $derived(findings.filter((f) => !f.waived && f.severity === 'note'));
  const waived = $derived(findings.filter((f) => f.waived));
  let asked = $state<Finding | null>(null);
  let reason = $state('');

  function take(event: Event) {
    event.preventDefault();
    if (asked && reason.trim().length >= 3) onwaive?.(asked, reason.trim());
    asked = null;
    reason = '';
  }
</script>

<ul class="grid gap-2" aria-label="Findings">
  {#each open as finding (finding.code + finding.where + finding.text)}
    <li class="finding {finding.severity}">
      <Mark severity={finding.severity} />
      <div>
        {finding.text} <span class="soft">{finding.remedy}</span>
        {#if onwaive && finding.severity === 'stop' && finding.waivable}
          {#if asked === finding}
            <form class="mt-1 flex gap-2" onsubmit={take}>
              <input
                class="field"
                aria-label="Reason"
                placeholder="reason, kept with the plan"
                bind:value={reason}
                maxlength="500"
              />
              <button class="act !min-h-8">Waive</button>
            </form>
          {:else}<button class="link" onclick={() => (asked = finding)}>waive with a reason …</button>{/if}
        {/if}
      </div>
    </li>
  {:else}
    <li class="soft">{notes.length ? 'Nothing that stops or warns.' : 'Nothing found.'}</li>
  {/each}
  {#each waived as finding (finding.code + finding.where + finding.text)}
    <li class="finding note">
      <Mark severity="note" />
      <p><s>{finding.text}</s> <b>waived:</b> {finding.waived}</p>
    </li>
  {/each}
  {#if notes.length}
    <li>
      <details open={notes.length < 3}>
        <summary class="cursor-pointer text-sm text-soft">{notes.length} note{notes.length === 1 ? '' : 's'}</summary>
        {#each notes as finding (finding.code + finding.where + finding.text)}
          <div class="finding note">
            <Mark severity="note" />
            <p>{finding.text}</p>
          </div>
        {/each}
      </details>
    </li>
  {/if}
</ul>

<style>
  .finding {
    display: flex;
    gap: 0.6rem;
    padding: 0.45rem 0.65rem;
    border: 1px solid var(--hairline);
    border-radius: 5px;
    background: var(--sheet);
    line-height: 1.35;
    font-size: 0.92rem;
  }
  .finding :global(svg) {
    margin-top: 2px;
  }
  .finding > div {
    min-width: 0;
    flex: 1;
  }
  .caution {
    background: var(--caution-bg);
  }
  .caution .soft,
  .stop .soft {
    color: var(--ink);
    opacity: 0.8;
  }
  .stop {
    background: var(--stop-bg);
    border-color: var(--stop);
  }
  .note {
    border-color: transparent;
    background: none;
    padding-block: 0.1rem;
  }
</style>
