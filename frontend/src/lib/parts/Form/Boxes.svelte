<script lang="ts">
  import Checkbox from 'flowbite-svelte/Checkbox.svelte';
  import Helper from 'flowbite-svelte/Helper.svelte';

  /** Several of a few, in the order in which they are offered. */
  interface Props {
    legend: string;
    /** What is offered: [value, words]. */
    choices: [string, string][];
    chosen: string[];
    error?: string;
    onchange: (chosen: string[]) => void;
  }
  let { legend, choices, chosen, error = '', onchange }: Props = $props();
  const toggle = (name: string, on: boolean) =>
    onchange(
      choices
        .map(([value]) => value)
        .filter((value) => (value === name ? on : chosen.includes(value))),
    );
</script>

<fieldset>
  <legend class="text-sm text-soft">{legend}</legend>
  <div class="flex flex-wrap gap-x-4 gap-y-1">
    {#each choices as [value, words], i (value)}
      <Checkbox
        checked={chosen.includes(value)}
        aria-invalid={i === 0 && !!error}
        onchange={(ev) => toggle(value, ev.currentTarget.checked)}>{words}</Checkbox
      >
    {/each}
  </div>
  {#if error}<Helper class="text-stop">{error}</Helper>{/if}
</fieldset>
