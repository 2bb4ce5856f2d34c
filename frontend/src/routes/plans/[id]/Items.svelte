<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import Word from '#lib/parts/Word.svelte';
  import type { Stage } from '#lib/plan.ts';
  import { sentence } from '#lib/sentence.ts';
  import Typed from './Typed.svelte';

  /** Things to tick. */
  interface Props {
    bench: Bench;
    stage: Stage;
    items: { id: string; text: string }[];
    at: string;
  }
  let { bench, stage, items, at }: Props = $props();
</script>

{#each items as item, i (item.id)}
  <div class="grid grid-cols-[1fr_auto] items-end gap-2">
    <Typed
      {bench}
      part={item}
      at="{at}/items/{i}"
      name="text"
      label={sentence('bench.item', { number: i + 1 })}
    />
    {#if items.length > 1}<Word
        class="pb-2 text-sm"
        label="Remove “{item.text}”"
        onclick={() => items.splice(i, 1)}>Remove</Word
      >{/if}
  </div>
{/each}
<Word class="justify-self-start text-sm" onclick={() => bench.act('add_item', { stage: stage.id })}
  >Add item</Word
>
