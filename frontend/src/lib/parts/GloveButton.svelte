<script lang="ts">
  import type { Snippet } from 'svelte';
  import Button from 'flowbite-svelte/Button.svelte';

  /** A button for a gloved thumb, with its key. */
  interface Props {
    /** `huge` is the usual answer of a step, `quiet` what is needed now and then. */
    look?: 'huge' | 'main' | 'plain' | 'quiet';
    /** The key that does the same. */
    key?: string;
    disabled?: boolean;
    onclick?: () => void;
    href?: string;
    type?: 'button' | 'submit';
    class?: string;
    children: Snippet;
  }
  let {
    look = 'plain',
    key = '',
    disabled,
    onclick,
    href,
    type = 'button',
    class: more = '',
    children,
  }: Props = $props();
  const LOOKS = {
    huge: 'huge min-h-[104px] text-[1.7rem] border-brine max-[500px]:min-h-[72px] short:min-h-[56px] short:text-[1.2rem] max-[500px]:text-[1.4rem] leading-[1.15] max-[500px]:leading-[1.15]',
    main: 'min-h-[64px] text-xl border-brine leading-[1.15] max-[500px]:leading-[1.15]',
    plain:
      'short:text-base bg-sheet min-h-[64px] text-[1.2rem] border-ink max-[500px]:min-h-[56px] short:min-h-[56px] max-[500px]:text-[1.05rem] leading-[1.15] max-[500px]:leading-[1.15]',
    quiet:
      'quiet bg-sheet min-h-[56px] text-base font-medium border-hairline max-[500px]:text-[0.9rem] leading-[1.15] max-[500px]:leading-[1.15]',
  };
  const color = $derived(look === 'huge' || look === 'main' ? 'primary' : 'alternative');
</script>

<Button
  {type}
  {href}
  {color}
  {disabled}
  {onclick}
  class="answer w-full justify-between gap-2 rounded-[6px] border-2 px-4 py-2 font-bold max-[500px]:px-3 {LOOKS[
    look
  ]} {more}"
>
  <span>{@render children()}</span>
  {#if key}<kbd class="no-touch font-sans text-[0.85rem] font-normal opacity-80">{key}</kbd>{/if}
</Button>
