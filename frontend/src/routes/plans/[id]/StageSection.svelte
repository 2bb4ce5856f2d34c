<script lang="ts">
  import type { Bench, Doc } from '#lib/bench.svelte.ts';
  import { asNumber } from '#lib/figures.ts';
  import type { Schemas } from '#lib/api/client.ts';
  import PassTable from './PassTable.svelte';
  import StageFrame from './StageFrame.svelte';
  import { fresh } from './stages';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';

  /** One stage: condition, cautions, items, checks or passes. */
  interface Props {
    bench: Bench;
    index: number;
    cautions: Record<string, string>;
    methods: Schemas['MethodOut'][];
    lubricants: Schemas['LubricantOut'][];
    onwork: (figure: string, title: string) => void;
    /** Called with the id of the stage that should be open after a move. */
    onmoved: (id: string) => void;
  }
  let { bench, index, cautions, methods, lubricants, onwork, onmoved }: Props = $props();
  const stage = $derived(bench.doc.stages[index]);
  const e = $derived((path: string) => bench.errors[`stages/${index}/${path}`] ?? '');

  /** Fields of the kinds that are neither a list nor passes: what a person may change. */
  const FIELDS: Record<string, [string, string][]> = {
    apply: [
      ['what', 'What'],
      ['amount', 'How much'],
      ['keep_dry', 'Keep dry'],
      ['sets_in', 'Sets in'],
    ],
    mark: [['what', 'What']],
    hold: [['what', 'What']],
    counter_hold: [
      ['what', 'What'],
      ['tool', 'With'],
    ],
    fit: [['what', 'What']],
    remove: [['what', 'What comes off']],
    loosen: [
      ['turn', 'Turn each'],
      ['rounds', 'Rounds'],
    ],
    jack_out: [
      ['what', 'What'],
      ['screws', 'Screws'],
      ['turn', 'Turn each'],
    ],
    wait: [
      ['for', 'How long'],
      ['what', 'Why'],
    ],
    lock: [
      ['what', 'What'],
      ['by', 'By'],
    ],
    watch: [['what', 'What']],
    note: [['text', 'Text']],
  };
  function own(field: string, text: string) {
    if (!text.trim()) delete stage[field];
    else stage[field] = ['rounds', 'screws'].includes(field) ? asNumber(text) : text;
  }
  function condition(text: string) {
    const found = text
      .split(',')
      .map((c) => c.trim())
      .filter(Boolean);
    if (found.length) stage.condition = found;
    else delete stage.condition;
  }
  function caution(code: string, on: boolean) {
    const now: string[] = stage.cautions ?? [];
    stage.cautions = on ? [...now, code] : now.filter((c) => c !== code);
  }
  function limit(c: Doc, side: 'min' | 'max', text: string) {
    c.limit ??= {};
    if (text.trim()) c.limit[side] = text;
    else delete c.limit[side];
    if (!c.limit.min && !c.limit.max) delete c.limit;
  }
</script>

{#if stage.condition || ['tighten', 'inspect', 'measure'].includes(stage.kind)}
  <QuantityField
    label="Only in this condition"
    note="separated by commas"
    value={(stage.condition ?? []).join(', ')}
    error={e('condition')}
    onchange={condition}
  />
{/if}
{#each FIELDS[stage.kind] ?? [] as [field, words] (field)}
  <QuantityField
    label={words}
    value={stage[field] === undefined ? '' : String(stage[field])}
    example="not said"
    error={e(field)}
    onchange={(t) => own(field, t)}
  />
{/each}
{#if stage.items}
  {#each stage.items as item, i (item.id)}
    <div class="grid grid-cols-[1fr_auto] items-end gap-2">
      <QuantityField label="To do {i + 1}" value={item.text} error={e(`items/${i}/text`)} onchange={(t) => (item.text = t)} />
      {#if stage.items.length > 1}<button
          class="link pb-2 text-sm"
          aria-label="Take out “{item.text}”"
          onclick={() => stage.items.splice(i, 1)}>take out</button
        >{/if}
    </div>
  {/each}
  <button class="link text-left text-sm" onclick={() => stage.items.push({ id: fresh(stage.items, 'i'), text: 'New item' })}
    >+ item</button
  >
{/if}
{#if stage.checks}
  {#each stage.checks as c, i (c.id)}
    <div class="grid grid-cols-[1fr_72px_72px_auto] items-end gap-2">
      <QuantityField
        label="Check {i + 1}"
        value={c.what ?? c.id}
        error={e(`checks/${i}/what`) || e(`checks/${i}/limit`)}
        onchange={(t) => (c.what = t)}
      />
      <QuantityField
        label="from"
        value={c.limit?.min ?? ''}
        example="–"
        error={e(`checks/${i}/limit/min`)}
        onchange={(t) => limit(c, 'min', t)}
      />
      <QuantityField
        label="to"
        value={c.limit?.max ?? ''}
        example="–"
        error={e(`checks/${i}/limit/max`)}
        onchange={(t) => limit(c, 'max', t)}
      />
      {#if stage.checks.length > 1}<button
          class="link pb-2 text-sm"
          aria-label="Take out “{c.what}”"
          onclick={() => stage.checks.splice(i, 1)}>out</button
        >{/if}
    </div>
  {/each}
  <button class="link text-left text-sm" onclick={() => stage.checks.push({ id: fresh(stage.checks, 'c'), what: 'New check' })}
    >+ check</button
  >
{/if}
{#if stage.kind === 'tighten'}
  {#if stage.watch_for}<QuantityField
      label="Watch for"
      value={stage.watch_for}
      error={e('watch_for')}
      onchange={(t) => (stage.watch_for = t)}
    />{/if}
  <PassTable {bench} {index} {methods} {onwork} />
{/if}
{#if stage.note}<QuantityField label="Note" value={stage.note} error={e('note')} onchange={(t) => (stage.note = t)} />{/if}
<StageFrame {bench} {index} {lubricants} {onmoved} />
{#if stage.across || stage.variants?.length || stage.after}
  <p class="soft text-sm">
    {[
      stage.across?.replaceAll('_', ' '),
      stage.variants?.length ? `only ${stage.variants.join(', ')}` : '',
      stage.after ? `after ${stage.after.join(', ') || 'nothing'}` : '',
    ]
      .filter(Boolean)
      .join('; ')}
  </p>
{/if}
<details class="text-sm">
  <summary class="cursor-pointer text-soft">Cautions here: {(stage.cautions ?? []).length || 'none'}</summary>
  <div class="mt-1 grid gap-1">
    {#each Object.entries(cautions) as [code, words] (code)}
      <label class="flex gap-2"
        ><input
          type="checkbox"
          checked={(stage.cautions ?? []).includes(code)}
          onchange={(ev) => caution(code, ev.currentTarget.checked)}
        /><span>{words}</span></label
      >
    {/each}
  </div>
</details>
