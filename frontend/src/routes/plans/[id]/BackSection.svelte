<script lang="ts">
  import type { Bench, Doc } from '#lib/bench.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';

  /** When somebody comes back to the joint: readings of a meter, then an interval. */
  let { bench }: { bench: Bench } = $props();
  const rechecks = $derived<Doc[]>(bench.doc.rechecks ?? []);
  const e = $derived((i: number, path: string) => bench.errors[`rechecks/${i}/${path}`] ?? '');

  function at(one: Doc, text: string) {
    const parts = text
      .split(',')
      .map((t) => t.trim())
      .filter(Boolean);
    if (parts.length) one.at = parts;
    else delete one.at;
  }
  function every(one: Doc, text: string) {
    if (text.trim()) one.every = text;
    else delete one.every;
  }
</script>

{#each rechecks as one, i (one.id)}
  <div class="grid grid-cols-[80px_1fr_1fr_auto] items-end gap-2">
    <QuantityField
      label="Meter"
      value={one.meter}
      choices={['km', 'h', 'd', 'cycles', 'starts'].map((x) => [x, x])}
      onchange={(t) => (one.meter = t)}
    />
    <QuantityField
      label="First at"
      note="with commas"
      value={(one.at ?? []).join(', ')}
      error={e(i, 'at') || e(i, 'at/0') || e(i, 'at/1')}
      onchange={(t) => at(one, t)}
    />
    <QuantityField
      label="then every"
      value={one.every ?? ''}
      example="not again"
      error={e(i, 'every')}
      onchange={(t) => every(one, t)}
    />
    <button class="link pb-2 text-sm" aria-label="Take out recheck {i + 1}" onclick={() => bench.doc.rechecks.splice(i, 1)}
      >out</button
    >
  </div>
  {#if one.reason}<p class="soft text-sm">{one.reason}</p>{/if}
{/each}
<button
  class="link text-left text-sm"
  onclick={() => (bench.doc.rechecks = [...rechecks, { id: `r${rechecks.length + 1}`, meter: 'h', at: ['24 h'] }])}
  >+ recheck</button
>
