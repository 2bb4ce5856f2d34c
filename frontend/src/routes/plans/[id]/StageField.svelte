<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import { namesIn, write, type FieldSpec, type Stage } from '#lib/plan.ts';

  /** One field of a stage's kind; those that choose among names of the plan are given the names. */
  let { bench, stage, at, spec }: { bench: Bench; stage: Stage; at: string; spec: FieldSpec } =
    $props();
  const doc = $derived(bench.doc);
  const compounds = $derived<[string, string][]>([
    ...(catalogue.value?.lubricants ?? []).map((l): [string, string] => [l.id, l.name]),
    ...Object.entries(doc.definitions?.lubricants ?? {}).map(([id, l]): [string, string] => [
      id,
      l.name ?? id,
    ]),
  ]);
  const others = $derived(namesIn.stages(doc, stage));
  const fitted = $derived(
    doc.stages.flatMap((s): [string, string][] => (s.kind === 'fit' ? [[s.id, s.what]] : [])),
  );
  const names = $derived(
    { compound: compounds, fitted, stages: others, stage: others }[spec.kind as string] ?? [],
  );
  const acts: Record<string, (value: string) => void> = {
    compound: (compound) =>
      void bench.act('set_compound', {
        stage: stage.id,
        compound,
        name: compounds.find(([id]) => id === compound)?.[1] ?? '',
      }),
    stage: (id) => write(stage, spec.name, id),
    fitted: (fit) => void bench.act('comes_out', { stage: stage.id, fit }),
  };
</script>

{#if spec.kind !== 'fitted' || names.length}
  <FormField
    {spec}
    part={stage}
    error={bench.errorIn(`${at}/${spec.name}`)}
    {names}
    onchoose={acts[spec.kind ?? '']}
  />
{/if}
