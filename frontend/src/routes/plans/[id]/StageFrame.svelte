<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Boxes from '#lib/parts/Form/Boxes.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { write, type Stage } from '#lib/plan.ts';
  import Typed from './Typed.svelte';

  /** What every stage has beside its own content: title, which bolts, when it is done, its place in the plan. */
  let { bench, stage, index }: { bench: Bench; stage: Stage; index: number } = $props();
  const at = $derived(`stages/${index}`);
  const groups = $derived(bench.doc.groups.filter((g) => !g.like).map((g): [string, string] => [g.id, g.name]));
  const chains = $derived(
    Object.entries(bench.doc.chains ?? {}).map(([name, [first, ...rest]]): [string, string] => {
      const tool = bench.doc.tools?.[String(first)];
      return [name, `${tool?.name ?? tool?.kind ?? name}${rest.length ? ` + ${rest.length}` : ''}`];
    }),
  );
  const occasions = $derived<[string, string][]>((catalogue.value?.occasions ?? []).map((o) => [o.value, o.words]));
  const before = $derived(
    [
      stage.across?.replaceAll('_', ' '),
      stage.variants?.length ? `only ${stage.variants.join(', ')}` : '',
      stage.after ? `after ${stage.after.join(', ') || 'nothing'}` : '',
    ]
      .filter(Boolean)
      .join('; '),
  );
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
{/if}
<Boxes
  legend="Done on"
  choices={occasions}
  chosen={stage.in ?? occasions.slice(0, 1).map(([value]) => value)}
  error={bench.errorIn(`${at}/in`)}
  onchange={(now) => write(stage, 'in', now)}
/>
<Typed {bench} part={stage} {at} name="title" label="Title of the stage" example="as its kind" />
{#if before}<p class="soft text-sm">{before}</p>{/if}
<p class="flex flex-wrap gap-x-4 text-sm">
  <Word disabled={index === 0} onclick={() => move('earlier')}>earlier</Word>
  <Word disabled={index === bench.doc.stages.length - 1} onclick={() => move('later')}>later</Word>
  <Word class="ml-auto" disabled={bench.doc.stages.length === 1} onclick={() => bench.act('drop_stage', { stage: stage.id })}
    >take this stage out</Word
  >
</p>
