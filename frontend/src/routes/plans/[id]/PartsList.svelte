<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';

  /** Parts and consumables to bring. */
  let { bench }: { bench: Bench } = $props();
  const parts = $derived(bench.doc.parts ?? []);
</script>

<Fold
  title="Parts to bring"
  more={parts.map((part) => part.name).join(', ') || 'none'}
  open={!!bench.errorIn('parts')}
>
  {#each parts as part, i (part.id)}
    <div class="grid grid-cols-2 items-end gap-2 border-l-2 border-hairline pl-3">
      {#each catalogue.value?.more_fields.part ?? [] as spec (spec.name)}
        <FormField {spec} {part} error={bench.errorIn(`parts/${i}/${spec.name}`)} />
      {/each}
      <Word
        class="justify-self-start text-sm"
        label={sentence('bench.remove_named', { name: part.name })}
        onclick={() => bench.doc.parts!.splice(i, 1)}>Remove</Word
      >
    </div>
  {/each}
  <Word class="justify-self-start text-sm" onclick={() => bench.act('add_part', {}, true)}
    >Add part</Word
  >
</Fold>
