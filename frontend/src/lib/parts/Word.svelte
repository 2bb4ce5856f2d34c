<script lang="ts">
  import type { Snippet } from 'svelte';
  import Button from 'flowbite-svelte/Button.svelte';
  import { WORD } from '../theme';

  /** A button, or a link, that reads as a word in a sentence. */
  interface Props {
    onclick?: () => void;
    href?: string;
    /** What it does, where the word alone does not tell. */
    label?: string;
    title?: string;
    disabled?: boolean;
    /** What is wrong is mended by it. */
    invalid?: boolean;
    target?: '_blank';
    rel?: string;
    download?: boolean;
    class?: string;
    children: Snippet;
  }
  let {
    onclick,
    href,
    label,
    title,
    disabled,
    invalid,
    target,
    rel,
    download,
    class: more = '',
    children,
  }: Props = $props();
</script>

<Button
  color="alternative"
  {href}
  {target}
  {rel}
  {download}
  {title}
  {disabled}
  {onclick}
  aria-label={label}
  aria-invalid={invalid || undefined}
  class="{WORD} {more}">{@render children()}</Button
>
