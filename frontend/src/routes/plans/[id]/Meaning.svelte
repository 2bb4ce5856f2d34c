<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { percent } from '#lib/figures.ts';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import type { Work } from './work.svelte.ts';

  /**
   * What the figure means at the bolt: where the torque goes, what is lost, what a degree is worth;
   * with the workings.
   */
  let { work, group }: { work: Work; group: Schemas['GroupOut'] } = $props();
  const kN = (newton: number, places: number) => `${(newton / 1000).toFixed(places)} kN`;
  const sentences = $derived(
    [
      group.split &&
        sentence('bench.split', {
          pitch: percent(group.split.pitch),
          thread: percent(group.split.thread),
          bearing: percent(group.split.bearing),
        }),
      group.share_of_yield && sentence('bench.of_yield', { share: percent(group.share_of_yield) }),
      group.losses.embedding_N &&
        sentence('bench.settling', {
          load: kN(group.losses.embedding_N, 1),
          creep: group.losses.creep_share ? percent(group.losses.creep_share) : 'none',
        }),
      group.preload?.after_typical_N != null &&
        group.preload.after_low_N != null &&
        sentence('bench.after_losses', {
          typical: kN(group.preload.after_typical_N, 1),
          least: kN(group.preload.after_low_N, 1),
        }),
      group.preload?.hot_typical_N != null &&
        sentence('bench.hot', { load: kN(group.preload.hot_typical_N, 1) }),
      group.stiffness &&
        sentence('bench.degree', {
          load: kN(group.stiffness.gain_N_per_deg, 2),
          longer: group.stiffness.elongation_mm.toFixed(3),
        }),
      group.teeth &&
        sentence('bench.turns', {
          turns: group.teeth.turns.toFixed(1),
          needed: group.teeth.required_mm.toFixed(1),
        }),
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
