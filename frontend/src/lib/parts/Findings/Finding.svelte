<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import type { Schemas } from '../../api/client';
  import Mark from '../Mark.svelte';
  import Word from '../Word.svelte';

  /** One finding as a sentence with its remedy; one that can be taken on asks for the reason. */
  interface Props {
    finding: Schemas['FindingOut'];
    onwaive?: (reason: string) => void;
    /** Take the figure of the remedy over, where it is one. */
    ontake?: () => void;
  }
  let { finding, onwaive, ontake }: Props = $props();
  let asked = $state(false);
  let reason = $state('');
  function take(event: Event) {
    event.preventDefault();
    onwaive?.(reason.trim());
    asked = false;
  }
</script>

<div class="finding {finding.waived ? 'note' : finding.severity}">
  <Mark severity={finding.waived ? 'note' : finding.severity} />
  <div class="min-w-0 flex-1">
    {#if finding.waived}<s>{finding.text}</s> <b>waived:</b> {finding.waived}
    {:else}<span>{finding.text}</span>
      {#if finding.severity !== 'note'}<span class="remedy">{finding.remedy}</span>{/if}{/if}
    {#if ontake && !finding.waived && Object.keys(finding.sets ?? {}).length}
      <Word onclick={ontake}>take this figure</Word>
    {/if}
    {#if onwaive && !finding.waived && finding.severity === 'stop' && finding.waivable}
      {#if asked}
        <form class="mt-1 flex gap-2" onsubmit={take}>
          <Input bind:value={reason} aria-label="Reason" placeholder="reason, kept with the plan" maxlength={500} minlength={3} />
          <Button type="submit" color="alternative" disabled={reason.trim().length < 3}>Waive</Button>
        </form>
      {:else}<Word onclick={() => (asked = true)}>waive with a reason …</Word>{/if}
    {/if}
  </div>
</div>

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
  .remedy {
    opacity: 0.8;
  }
  .caution {
    background: var(--caution-bg);
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
