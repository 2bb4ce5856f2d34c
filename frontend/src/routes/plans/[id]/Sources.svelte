<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import Word from '#lib/parts/Word.svelte';
  import SourceFields from './SourceFields.svelte';

  /** What each source says, one under the other; another one can be added. */
  let { bench, group }: { bench: Bench; group: string } = $props();
  const own = $derived(
    (bench.doc.sources ?? [])
      .map((source, index) => ({ source, index }))
      .filter(({ source }) => !source.groups?.length || source.groups.includes(group)),
  );
  const target = $derived(bench.doc.targets[group]);
  const taken = $derived(target && 'source' in target ? target.source : '');
</script>

{#each own as { source, index } (source.id)}
  <Fold
    title="{source.by}{source.reference ? `, ${source.reference}` : ''}"
    open={source.id === taken || !!bench.errorIn(`sources/${index}`) || own.length === 1}
  >
    <SourceFields {bench} {source} at="sources/{index}" />
  </Fold>
{/each}
<Word class="justify-self-start text-sm" onclick={() => bench.act('add_source', { group })}
  >Add source</Word
>
