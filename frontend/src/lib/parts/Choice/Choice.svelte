<script lang="ts">
  import { tick } from 'svelte';
  import Select from 'flowbite-svelte/Select.svelte';

  /**
   * A list that shows what is chosen, and nothing else: what a person picks until its consequences
   * are there, then the value that they led to. An act that is refused shows the old value again.
   */
  interface Props {
    id: string;
    value: string;
    /** [value, words] */
    choices: [string, string][];
    onchange: (value: string) => unknown;
    /** Words for nothing chosen, where nothing can be chosen. */
    placeholder?: string;
    class?: string;
    /** Of the list itself. */
    listClass?: string;
    required?: boolean;
    'aria-invalid'?: boolean;
    'aria-describedby'?: string;
  }
  let {
    id,
    value,
    choices,
    onchange,
    placeholder = '',
    class: outer,
    listClass = '',
    ...more
  }: Props = $props();
  let element = $state<HTMLSelectElement>();
  let picked = $state<string | null>(null);
  const shown = $derived(picked ?? value);
  let turn = 0;

  async function choose(to: string): Promise<void> {
    const own = ++turn;
    picked = to;
    try {
      await onchange(to);
    } finally {
      await tick();
      if (own === turn) picked = null;
    }
  }
  // the framework leaves a list alone that has the focus: what is shown is set here in any case
  $effect(() => {
    if (element && choices.length && element.value !== shown) element.value = shown;
  });
</script>

<Select
  {id}
  bind:value={() => shown, (to) => void choose(String(to))}
  bind:elementRef={element}
  {placeholder}
  items={choices.map(([key, words]) => ({ value: key, name: words }))}
  class={outer}
  classes={{ select: listClass }}
  {...more}
/>
