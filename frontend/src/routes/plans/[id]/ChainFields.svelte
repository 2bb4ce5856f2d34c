<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { changed, partsOf, type Parts } from './chains';

  /** What stands between a wrench and the bolt: an offset adapter at the wrench, a multiplier behind it. */
  let { bench, chain }: { bench: Bench; chain: string } = $props();
  const links = $derived(bench.doc.chains[chain]);
  const parts = $derived(partsOf(links));
  const wrong = $derived(Object.entries(bench.errors).filter(([path]) => path.startsWith(`chains/${chain}/`)));
  const FIELDS: [keyof Omit<Parts, 'more'>, string, string][] = [
    ['adapter', 'Offset adapter', 'none'],
    ['angle', 'Its angle', '0 deg'],
    ['ratio', 'Multiplier ratio', 'none'],
    ['efficiency', 'Efficiency', '0.87 0.9 0.93'],
    ['arm', 'Reaction arm', 'not given'],
    ['restsOn', 'Rests on', 'not said'],
  ];
  const shown = $derived(
    FIELDS.filter(([name]) => ['adapter', 'ratio'].includes(name) || (name === 'angle' ? parts.adapter : parts.ratio)),
  );
  const error = (name: string) =>
    wrong.find(([path]) => path.endsWith({ ratio: 'multiplier', restsOn: 'rests_on' }[name] ?? name))?.[1] ?? '';
  const unplaced = $derived(wrong.filter(([, text]) => !shown.some(([name]) => error(name) === text)));
</script>

<p class="text-sm text-soft">Between wrench and bolt{parts.more ? `, and ${parts.more} more multiplier as in the file` : ''}</p>
<div class="grid grid-cols-2 gap-2">
  {#each shown as [name, label, example] (name)}
    <QuantityField
      {label}
      value={parts[name]}
      {example}
      error={error(name)}
      onchange={(text) => (bench.doc.chains[chain] = changed(links, name, text))}
    />
  {/each}
</div>
{#each unplaced as [path, text] (path)}<p class="text-sm text-stop">{text}</p>{/each}
