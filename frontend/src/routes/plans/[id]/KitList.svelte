<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import { sentence } from '#lib/sentence.ts';

  /** What to bring, and how long it takes. */
  let { kit, minutes }: { kit: Schemas['KitLine'][]; minutes: number } = $props();
  const hours = $derived(
    minutes >= 90 ? `${(minutes / 60).toFixed(1)} h` : `${minutes.toFixed(0)} min`,
  );
  /** On which occasions only, where that is not on all of them. */
  const all = $derived(catalogue.value?.occasions ?? []);
  const when = (line: Schemas['KitLine']) => {
    const on = all.filter((o) => line.occasions?.includes(o.value));
    return on.length && on.length < all.length
      ? `(${on.map((o) => o.words.toLowerCase()).join(', ')})`
      : '';
  };
</script>

<div class="sheet p-3 text-sm">
  <Fold
    title={sentence('bench.kit', { count: kit.length })}
    more={sentence('bench.hours', { hours })}
  >
    <ul>
      {#each kit as line, i (i)}
        <li class="flex gap-3 border-t py-[3px]">
          <span class="w-6 shrink-0 text-right">{line.count > 1 ? `${line.count} ×` : ''}</span
          ><span class="flex-1"
            >{line.text}{#if when(line)}<span class="soft"> {when(line)}</span>{/if}</span
          ><span class="soft shrink-0">{line.kind}</span>
        </li>
      {/each}
    </ul>
  </Fold>
</div>
