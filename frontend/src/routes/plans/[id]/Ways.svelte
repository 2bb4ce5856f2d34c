<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';

  /**
   * The ways in which the plan may be worked; of those that decide the same thing one is taken when
   * a run starts.
   */
  let { bench }: { bench: Bench } = $props();
  const ways = $derived(bench.doc.variants ?? []);
</script>

<Fold
  title="Variants"
  more={ways.map((way) => way.name).join(', ') || 'only one'}
  open={!!bench.errorIn('variants')}
>
  {#each ways as way, i (way.id)}
    <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
      {#each catalogue.value?.more_fields.way ?? [] as spec (spec.name)}
        <FormField
          {spec}
          part={way}
          label="{spec.label} {i + 1}"
          error={bench.errorIn(`variants/${i}/${spec.name}`)}
        />
      {/each}
      <Word
        class="pb-2 text-sm"
        label={sentence('bench.remove_way', { name: way.name })}
        onclick={() => bench.act('drop_way', { way: way.id }, true)}>Remove</Word
      >
    </div>
  {/each}
  {#if ways.length}<p class="soft text-sm">
      Of the variants of one choice, one is chosen when a run starts; stages and bolts name the
      variants in which they are done.
    </p>{/if}
  <Word
    class="justify-self-start text-sm"
    onclick={() => bench.act('add_way', { choice: ways.at(-1)?.choice ?? '' }, true)}
    >Add variant</Word
  >
</Fold>
