<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import MoreFields from './MoreFields.svelte';
  import { listOf, textOf, write } from '#lib/plan.ts';

  /** When somebody comes back to the joint: readings of a meter, then an interval. */
  let { bench }: { bench: Bench } = $props();
  const meters = $derived<[string, string][]>(
    (catalogue.value?.meters ?? []).map((m) => [m.value, m.words]),
  );
</script>

{#each bench.doc.rechecks ?? [] as one, i (one.id)}
  <div class="grid grid-cols-[150px_1fr_1fr_auto] items-end gap-2">
    <QuantityField
      label="Counted by"
      value={textOf(one, 'meter')}
      choices={meters}
      onchange={(t) => write(one, 'meter', t)}
    />
    <QuantityField
      label="First at"
      note="with commas"
      value={textOf(one, 'at')}
      error={bench.errorIn(`rechecks/${i}/at`)}
      onchange={(t) => write(one, 'at', listOf(t))}
    />
    <QuantityField
      label="then every"
      value={textOf(one, 'every')}
      example="not again"
      error={bench.error(`rechecks/${i}/every`)}
      onchange={(t) => write(one, 'every', t.trim())}
    />
    <Word
      class="pb-2 text-sm"
      label={sentence('bench.remove_recheck', { number: i + 1 })}
      onclick={() => bench.doc.rechecks!.splice(i, 1)}>Remove</Word
    >
  </div>
  <MoreFields
    {bench}
    part={one}
    at="rechecks/{i}"
    about="recheck"
    title={sentence('bench.more_recheck', { number: i + 1 })}
  />
{/each}
<Word class="justify-self-start text-sm" onclick={() => bench.act('add_recheck')}>Add recheck</Word>
