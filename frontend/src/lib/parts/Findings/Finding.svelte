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
    /** It counts again. */
    onunwaive?: () => void;
    /** Close it by its act, where it has one. */
    onact?: () => void;
    /** Go to where it is mended. */
    onopen?: () => void;
    /** The reason is asked for, by its key. */
    asking?: boolean;
    /** The one that a key has led to. */
    current?: boolean;
  }
  let { finding, onwaive, onunwaive, onact, onopen, asking = false, current = false }: Props = $props();
  let asked = $state(false);
  $effect(() => {
    if (asking) asked = true;
  });
  let reason = $state('');
  function take(event: Event) {
    event.preventDefault();
    if (reason.trim().length < 3) return;
    onwaive?.(reason.trim());
    asked = false;
  }
</script>

<div
  class="finding {finding.waived ? 'note' : finding.severity}"
  class:current
  data-current={current || undefined}
  {@attach (box) => current && box.scrollIntoView({ block: 'nearest' })}
>
  <Mark severity={finding.waived ? 'note' : finding.severity} />
  <div class="min-w-0 flex-1">
    {#if finding.waived}<s>{finding.text}</s> <b>taken on:</b>
      {finding.waived}
      {#if onunwaive}<Word onclick={onunwaive}>it counts again</Word>{/if}
    {:else if onopen}<Word
        onclick={onopen}
        class="text-left text-[inherit] font-normal whitespace-normal text-ink"
        title="go to where it is mended">{finding.text}</Word
      >{:else}<span>{finding.text}</span>{/if}
    {#if !finding.waived}
      {#if finding.severity !== 'note'}<span class="remedy">{finding.remedy}</span>{/if}{/if}
    {#if onact && !finding.waived && finding.act}
      <Word onclick={onact}>{finding.act_words}</Word>
    {/if}
    {#if onwaive && !finding.waived && finding.severity !== 'note' && finding.waivable}
      {#if asked}
        <form class="mt-1 flex gap-2" onsubmit={take} {@attach (form) => form.querySelector('input')?.focus()}>
          <Input bind:value={reason} aria-label="Reason" placeholder="reason, kept with the plan" maxlength={500} minlength={3} />
          <Button type="submit" color="alternative" disabled={reason.trim().length < 3}>Take on</Button>
        </form>
      {:else}<Word onclick={() => (asked = true)}>take on with a reason …</Word>{/if}
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
  .current {
    outline: 2px solid var(--ink);
    outline-offset: 1px;
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
