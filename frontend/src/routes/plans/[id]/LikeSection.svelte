<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import LayoutFields from './LayoutFields.svelte';
  import Typed from './Typed.svelte';

  /**
   * The same bolts in another way: only what differs is written; figure, sources and stages are
   * those of the first.
   */
  let { bench, index }: { bench: Bench; index: number } = $props();
  const group = $derived(bench.doc.groups[index]!);
  const at = $derived(`groups/${index}`);
  const base = $derived(bench.doc.groups.find((g) => g.id === group.like));
  const ways = $derived(
    (bench.doc.variants ?? []).flatMap((v, i) =>
      [...(base?.variants ?? []), ...(group.variants ?? [])].includes(v.id) ? [{ way: v, i }] : [],
    ),
  );
  const fastener = $derived(group.fastener ?? {});
</script>

<p class="soft text-sm">
  {sentence('bench.variant', { base: base?.name ?? '' })}
</p>
{#each ways as { way, i } (way.id)}
  <Typed
    {bench}
    part={way}
    at="variants/{i}"
    name="name"
    label={group.variants?.includes(way.id) ? 'This way is called' : 'The other is called'}
  />
{/each}
<LayoutFields {bench} {group} {at} />
<Typed
  {bench}
  part={fastener}
  at="{at}/fastener"
  name="thread"
  label="Thread"
  example={base?.fastener.thread ?? ''}
  list={catalogue.value?.threads ?? []}
  onwritten={() => (group.fastener = fastener as typeof group.fastener)}
/>
<p class="flex text-sm">
  <Word class="ml-auto" onclick={() => bench.act('drop_group', { group: group.id })}
    >Remove variant</Word
  >
</p>
