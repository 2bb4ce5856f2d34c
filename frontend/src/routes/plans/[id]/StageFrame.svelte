<script lang="ts">
  import type { Bench, Doc } from '#lib/bench.svelte.ts';
  import type { Schemas } from '#lib/api/client.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { FACES, OCCASIONS, move, toggled } from './stages';

  /** What every stage has beside its own content: title, which bolts, when it is done, its place in the plan. */
  interface Props {
    bench: Bench;
    index: number;
    lubricants: Schemas['LubricantOut'][];
    /** Called with the id of the stage that should be open after a move, nothing after it was taken out. */
    onmoved: (id: string) => void;
  }
  let { bench, index, lubricants, onmoved }: Props = $props();
  const stage = $derived<Doc>(bench.doc.stages[index]);
  const e = $derived((path: string) => bench.errors[`stages/${index}/${path}`] ?? '');
  const groups = $derived<Doc[]>(bench.doc.groups);
  const fits = $derived<[string, string][]>(
    bench.doc.stages.filter((s: Doc) => s.kind === 'fit').map((s: Doc): [string, string] => [s.id, s.what]),
  );
  const compounds = $derived<[string, string][]>([
    ['', 'not one of the tables'],
    ...lubricants.map((l): [string, string] => [l.id, l.name]),
    ...Object.entries<Doc>(bench.doc.definitions?.lubricants ?? {}).map(([id, l]): [string, string] => [id, l.name ?? id]),
  ]);

  function chainWords(name: string): string {
    const tool = bench.doc.tools?.[bench.doc.chains[name][0]];
    const parts = bench.doc.chains[name].length - 1;
    return `${tool?.name ?? tool?.kind ?? name}${parts ? ` + ${parts}` : ''}`;
  }
  function compound(id: string) {
    const known = compounds.find(([one]) => one === id)?.[1];
    if (id) Object.assign(stage, { compound: id, what: known ?? id });
    else delete stage.compound;
  }
  function comesOut(fit: string) {
    if (fit) {
      stage.fit = fit;
      delete stage.what;
    } else {
      delete stage.fit;
      stage.what ??= 'what comes off';
    }
  }
  function shift(by: 1 | -1) {
    move(bench.doc.stages, index, by);
    onmoved(bench.doc.stages[index + by]?.id ?? stage.id);
  }
</script>

{#snippet boxes(legend: string, field: string, all: readonly string[], words: (name: string) => string, now: string[])}
  <fieldset>
    <legend class="text-sm text-soft">{legend}</legend>
    <div class="flex flex-wrap gap-x-4">
      {#each all as name (name)}
        <label class="flex items-center gap-1 text-sm"
          ><input
            type="checkbox"
            checked={now.includes(name)}
            onchange={(ev) => (stage[field] = toggled(now, all, name, ev.currentTarget.checked))}
          />
          {words(name)}</label
        >
      {/each}
    </div>
    {#if e(field)}<p class="text-sm text-stop">{e(field)}</p>{/if}
  </fieldset>
{/snippet}

{#if stage.kind === 'apply'}
  <QuantityField label="Compound" value={stage.compound ?? ''} choices={compounds} error={e('compound')} onchange={compound} />
  {@render boxes('On which faces', 'faces', FACES, (face) => face, stage.faces ?? [])}
{:else if stage.kind === 'remove' && fits.length}
  <QuantityField
    label="Comes out"
    value={stage.fit ?? ''}
    choices={[['', 'something that was there'], ...fits]}
    error={e('fit')}
    onchange={comesOut}
  />
{:else if stage.kind === 'fit'}
  <label class="flex items-center gap-2 text-sm"
    ><input type="checkbox" checked={!!stage.temporary} onchange={(ev) => (stage.temporary = ev.currentTarget.checked)} />
    Only for the work: must come out again</label
  >
{/if}
{#if stage.groups && groups.length > 1}
  {@render boxes(
    'Which bolts',
    'groups',
    groups.map((g) => g.id),
    (id) => groups.find((g) => g.id === id)?.name ?? id,
    stage.groups,
  )}
{/if}
{#if stage.chains && Object.keys(bench.doc.chains ?? {}).length > 1}
  {@render boxes('Pulled with', 'chains', Object.keys(bench.doc.chains), chainWords, stage.chains)}
{/if}
{@render boxes('Done on', 'in', OCCASIONS, (occasion) => occasion, stage.in ?? ['install'])}
<QuantityField
  label="Title of the stage"
  value={stage.title ?? ''}
  example="as its kind"
  error={e('title')}
  onchange={(t) => (t.trim() ? (stage.title = t) : delete stage.title)}
/>
<p class="flex flex-wrap gap-x-4 text-sm">
  <button class="link" disabled={index === 0} onclick={() => shift(-1)}>earlier</button>
  <button class="link" disabled={index === bench.doc.stages.length - 1} onclick={() => shift(1)}>later</button>
  <button
    class="link ml-auto"
    disabled={bench.doc.stages.length === 1}
    onclick={() => (bench.doc.stages.splice(index, 1), onmoved(''))}>take this stage out</button
  >
</p>
