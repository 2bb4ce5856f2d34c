<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { percent } from '#lib/figures.ts';
  import Word from '#lib/parts/Word.svelte';
  import type { Work } from './work.svelte.ts';

  /** What the figure means at the bolt: where the torque goes, what is lost, what a degree is worth; with the workings. */
  let { work, group }: { work: Work; group: Schemas['GroupOut'] } = $props();
  const kN = (newton: number, places: number) => `${(newton / 1000).toFixed(places)} kN`;
  const sentences = $derived(
    [
      group.split &&
        `Of the torque ${percent(group.split.pitch)} stretches the bolt, ${percent(group.split.thread)} rubs in the thread, ${percent(group.split.bearing)} under the head.`,
      group.share_of_yield && `Typically ${percent(group.share_of_yield)} of yield.`,
      group.losses.embedding_N &&
        `Settling takes ${kN(group.losses.embedding_N, 1)}${group.losses.creep_share ? `, creep ${percent(group.losses.creep_share)}` : ''}.`,
      group.preload?.after_typical_N != null &&
        group.preload.after_low_N != null &&
        `After losses ${kN(group.preload.after_typical_N, 1)} is typical, ${kN(group.preload.after_low_N, 1)} the least.`,
      group.preload?.hot_typical_N != null && `At working temperature ${kN(group.preload.hot_typical_N, 1)}.`,
      group.stiffness &&
        `One degree is ${kN(group.stiffness.gain_N_per_deg, 2)}; the bolt is ${group.stiffness.elongation_mm.toFixed(3)} mm longer.`,
      group.teeth && `${group.teeth.turns.toFixed(1)} turns engaged, ${group.teeth.required_mm.toFixed(1)} mm needed.`,
    ].filter(Boolean),
  );
  const workings = $derived([
    ['torque', 'Torque'],
    ['preload', 'Preload'],
    ['split', 'Split'],
    ['losses', 'Losses'],
    ...(group.stiffness ? [['stiffness', 'Stiffness']] : []),
    ...(group.preload?.hot_typical_N != null ? [['hot', 'Hot']] : []),
    ...(group.teeth ? [['teeth', 'Thread']] : []),
  ] as [string, string][]);
</script>

<p class="soft text-sm">{sentences.join(' ')}</p>
<p class="flex flex-wrap gap-x-4 text-sm">
  <span class="soft">working of</span>
  {#each workings as [name, words] (name)}
    <Word onclick={() => work.show(`${group.id}/${name}`, words)}>{words.toLowerCase()}</Word>
  {/each}
</p>
