<script lang="ts">
  import Checkbox from 'flowbite-svelte/Checkbox.svelte';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Boxes from '#lib/parts/Form/Boxes.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { namesIn, write, type Stage } from '#lib/plan.ts';
  import { sentence } from '#lib/sentence.ts';
  import MoreFields from './MoreFields.svelte';
  import Typed from './Typed.svelte';

  /**
   * What every stage has beside its own content: title, which bolts, when it is done, its place in
   * the plan.
   */
  let { bench, stage, index }: { bench: Bench; stage: Stage; index: number } = $props();
  const at = $derived(`stages/${index}`);
  const groups = $derived(namesIn.groups(bench.doc));
  const chains = $derived(namesIn.chains(bench.doc));
  const occasions = $derived<[string, string][]>(
    (catalogue.value?.occasions ?? []).map((o) => [o.value, o.words]),
  );
  const others = $derived(namesIn.stages(bench.doc, stage));
  /** The chains that groups have for themselves. */
  const own = $derived(
    'chain_for' in stage ? ((stage.chain_for ?? {}) as Record<string, string>) : {},
  );
  function chainFor(group: string, chain: string) {
    write(stage, `chain_for.${group}`, chain);
  }
  const move = (by: string) => bench.act('move_stage', { stage: stage.id, by });
</script>

{#if 'groups' in stage && stage.groups && groups.length > 1}
  <Boxes
    legend="Which bolts"
    choices={groups}
    chosen={stage.groups}
    error={bench.errorIn(`${at}/groups`)}
    onchange={(now) => (stage.groups = now)}
  />
{/if}
{#if 'chains' in stage && stage.chains && chains.length > 1}
  <Boxes
    legend="Pulled with"
    choices={chains}
    chosen={stage.chains}
    error={bench.errorIn(`${at}/chains`)}
    onchange={(now) => (stage.chains = now)}
  />
  {#if 'groups' in stage && (stage.groups ?? []).length > 1}
    <div class="grid grid-cols-2 items-end gap-2">
      {#each groups.filter(([id]) => stage.groups!.includes(id)) as [id, name] (id)}
        <QuantityField
          label={sentence('bench.pulled_with', { group: name })}
          value={own[id] ?? ''}
          choices={[['', 'as the stage says'], ...chains]}
          error={bench.error(`${at}/chain_for/${id}`)}
          onchange={(chain) => chainFor(id, chain)}
        />
      {/each}
    </div>
  {/if}
{/if}
<Boxes
  legend="Done on"
  choices={occasions}
  chosen={stage.in ?? occasions.slice(0, 1).map(([value]) => value)}
  error={bench.errorIn(`${at}/in`)}
  onchange={(now) => write(stage, 'in', now)}
/>
<Typed {bench} part={stage} {at} name="title" label="Title of the stage" example="as its kind" />
<MoreFields
  {bench}
  part={stage}
  {at}
  about="stage"
  title="order, positions, ways"
  open={!!stage.after}
>
  <Checkbox
    checked={!!stage.after}
    onchange={(ev) => {
      if (ev.currentTarget.checked) stage.after = index ? [bench.doc.stages[index - 1]!.id] : [];
      else delete stage.after;
    }}>not simply after the stage before it</Checkbox
  >
  {#if stage.after}
    <Boxes
      legend="Comes after; after none of them it may be done at any time"
      choices={others}
      chosen={stage.after}
      error={bench.errorIn(`${at}/after`)}
      onchange={(now) => (stage.after = now)}
    />
  {/if}
</MoreFields>
<p class="flex flex-wrap gap-x-4 text-sm">
  <Word disabled={index === 0} onclick={() => move('earlier')}>Move up</Word>
  <Word disabled={index === bench.doc.stages.length - 1} onclick={() => move('later')}
    >Move down</Word
  >
  <Word onclick={() => bench.act('copy_stage', { stage: stage.id })}>Copy stage</Word>
  <Word
    class="ml-auto"
    disabled={bench.doc.stages.length === 1}
    onclick={() => bench.act('drop_stage', { stage: stage.id })}>Remove stage</Word
  >
</p>
