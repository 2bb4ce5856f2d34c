<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import Word from '#lib/parts/Word.svelte';

  /** Every field that is wrong, with its sentence and the way to it. */
  let { bench }: { bench: Bench } = $props();
  const title = (key: string) =>
    bench.sections.find((section) => section.key === key)?.title ?? 'The plan';
</script>

<ul class="grid gap-1" aria-label="Wrong fields">
  {#each bench.wrong as one, i (i)}
    <li>
      <b>{title(one.section)}</b>
      <Word
        class="text-left font-normal whitespace-normal"
        title="go to the field"
        onclick={() => bench.goTo(one, one.text)}>{one.text}</Word
      >
    </li>
  {/each}
</ul>
