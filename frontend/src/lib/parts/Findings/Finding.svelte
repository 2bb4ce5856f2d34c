<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import type { Schemas } from '../../api/client';
  import Mark from '../Mark.svelte';
  import Word from '../Word.svelte';

  /**
   * One finding: figure and limit, the remedy, the act that does it; one that can be waived asks
   * for the reason.
   */
  interface Props {
    finding: Schemas['FindingOut'];
    onwaive?: (reason: string) => void;
    /** Undo the waiver. */
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
  let {
    finding,
    onwaive,
    onunwaive,
    onact,
    onopen,
    asking = false,
    current = false,
  }: Props = $props();
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
  class="finding"
  class:current
  data-current={current || undefined}
  {@attach (box) => current && box.scrollIntoView({ block: 'nearest' })}
>
  <Mark severity={finding.waived ? 'note' : finding.severity} />
  <div class="min-w-0 flex-1">
    {#if finding.waived}
      {finding.text} <b>Waived:</b>
      {finding.waived}
    {:else}
      {#if onopen}<Word
          onclick={onopen}
          class="text-left text-[inherit] whitespace-normal text-ink {finding.severity === 'note'
            ? 'font-normal'
            : ''}"
          title="Go to the field">{finding.text}</Word
        >{:else}<span class={finding.severity === 'note' ? '' : 'font-semibold'}
          >{finding.text}</span
        >{/if}
      {#if finding.severity !== 'note' && finding.remedy}<p class="soft">{finding.remedy}</p>{/if}
    {/if}
    <p class="flex flex-wrap gap-x-5">
      {#if finding.waived && onunwaive}<Word onclick={onunwaive}>Undo waiver</Word>{/if}
      {#if onact && !finding.waived && finding.act}<Word onclick={onact}>{finding.act_words}</Word
        >{/if}
      {#if onwaive && !asked && !finding.waived && finding.severity !== 'note' && finding.waivable}
        <Word onclick={() => (asked = true)}>Waive with a reason …</Word>
      {/if}
    </p>
    {#if asked && !finding.waived}
      <form
        class="mt-1 flex gap-2"
        onsubmit={take}
        {@attach (form) => form.querySelector('input')?.focus()}
      >
        <Input
          bind:value={reason}
          aria-label="Reason"
          placeholder="reason, kept with the plan"
          maxlength={500}
          minlength={3}
        />
        <Button type="submit" color="alternative" disabled={reason.trim().length < 3}>Waive</Button>
        <Button color="alternative" onclick={() => (asked = false)}>Cancel</Button>
      </form>
    {/if}
  </div>
</div>

<style>
  .finding {
    display: flex;
    gap: 0.6rem;
    padding: 0.4rem 0;
    border-top: 1px solid var(--hairline);
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
</style>
