<script lang="ts">
  import type { Bench, Doc } from '#lib/bench.svelte.ts';
  import { asNumber } from '#lib/figures.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import ChainFields from './ChainFields.svelte';
  import { newTool } from './chains';

  interface Props {
    bench: Bench;
    tool: string;
    /** Called with the id of the tool that should be open; nothing after one was taken out. */
    onmoved: (tool: string) => void;
  }
  /** A wrench that the plan asks for, and what stands between it and the bolt. */
  let { bench, tool, onmoved }: Props = $props();
  const chains = $derived(Object.keys(bench.doc.chains ?? {}).filter((name) => bench.doc.chains[name][0] === tool));
  const used = $derived(
    bench.doc.stages.some((s: Doc) =>
      [...(s.chains ?? []), ...Object.values(s.chain_for ?? {})].some((c) => chains.includes(c as string)),
    ),
  );
  function add() {
    const made = newTool(bench.doc);
    bench.doc.tools[made.tool] = made.spec;
    bench.doc.chains[made.chain] = [made.tool];
    onmoved(made.tool);
  }
  function drop() {
    for (const name of chains) delete bench.doc.chains[name];
    delete bench.doc.tools[tool];
    onmoved('');
  }
  const w = $derived(bench.doc.tools[tool]);
  const e = $derived((path: string) => bench.errors[`tools/${tool}/${path}`] ?? '');
  function optional(field: string, text: string) {
    if (text.trim()) w[field] = text;
    else delete w[field];
  }
</script>

<div class="grid grid-cols-2 gap-2">
  <QuantityField
    label="Wrench"
    value={w.name ?? ''}
    example="name or number"
    error={e('name')}
    onchange={(t) => optional('name', t)}
  />
  <QuantityField
    label="Kind"
    value={w.kind}
    choices={['click wrench', 'dial wrench', 'beam wrench', 'electronic wrench', 'preset driver'].map((x) => [x, x])}
    onchange={(t) => (w.kind = t)}
  />
</div>
<div class="grid grid-cols-3 gap-2">
  <QuantityField label="Scale from" value={w.range[0]} error={e('range/0') || e('range')} onchange={(t) => (w.range[0] = t)} />
  <QuantityField label="to" value={w.range[1]} error={e('range/1')} onchange={(t) => (w.range[1] = t)} />
  <QuantityField
    label="Accuracy ± %"
    value={w.accuracy === undefined
      ? ''
      : typeof w.accuracy === 'number'
        ? String(Number((w.accuracy * 100).toFixed(3)))
        : w.accuracy}
    example="ISO 6789"
    error={e('accuracy')}
    onchange={(t) => {
      const n = asNumber(t);
      if (!t.trim()) delete w.accuracy;
      else w.accuracy = typeof n === 'number' ? n / 100 : t;
    }}
  />
  <QuantityField label="Increment" value={w.increment ?? ''} error={e('increment')} onchange={(t) => optional('increment', t)} />
  <QuantityField
    label="Main mark every"
    value={w.mark ?? ''}
    example="one scale"
    error={e('mark')}
    onchange={(t) => optional('mark', t)}
  />
  <QuantityField label="Drive to grip" value={w.length ?? ''} error={e('length')} onchange={(t) => optional('length', t)} />
</div>
<QuantityField
  label="Drive"
  value={w.drive ?? ''}
  choices={[
    ['', 'not given'],
    ...['1/4 in', '3/8 in', '1/2 in', '3/4 in', '1 in', '1-1/2 in'].map((x): [string, string] => [x, x]),
  ]}
  onchange={(t) => optional('drive', t)}
/>

{#each chains as chain (chain)}<ChainFields {bench} {chain} />{/each}
<p class="flex gap-4 text-sm">
  <button class="link" onclick={add}>+ another tool</button>
  {#if !used && Object.keys(bench.doc.tools).length > 1}<button class="link ml-auto" onclick={drop}>take this tool out</button
    >{/if}
</p>
