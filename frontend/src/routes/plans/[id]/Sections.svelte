<script lang="ts">
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import BackSection from './BackSection.svelte';
  import FigureSection from './FigureSection.svelte';
  import JointSection from './JointSection.svelte';
  import LikeSection from './LikeSection.svelte';
  import Section from './Section.svelte';
  import StageSection from './StageSection.svelte';
  import ToolsSection from './ToolsSection.svelte';
  import type { Work } from './work.svelte.ts';

  /** The sections of the Bench in work order, as the server names them; one is open. */
  let { bench, work }: { bench: Bench; work: Work } = $props();
  const kinds = $derived<[string, string][]>(
    (catalogue.value?.stage_kinds ?? []).map((k) => [k.kind, k.words]),
  );
  /** A new stage comes behind the one that is open, else last. */
  const add = (kind: string) =>
    kind &&
    bench.act('add_stage', {
      kind,
      behind: bench.sections.find((s) => s.key === bench.open && s.kind === 'stage')?.id ?? '',
    });
</script>

{#each bench.sections as section, i (section.key)}
  <Section
    {section}
    number={i + 1}
    open={bench.open === section.key}
    ontoggle={(now) =>
      (bench.open = now ? section.key : bench.open === section.key ? '' : bench.open)}
  >
    {#if section.kind === 'joint' && bench.doc.groups[section.index]}
      <JointSection {bench} index={section.index} />
    {:else if section.kind === 'like' && bench.doc.groups[section.index]}
      <LikeSection {bench} index={section.index} />
    {:else if section.kind === 'figure' && bench.doc.groups[section.index]}
      <FigureSection {bench} {work} index={section.index} />
    {:else if section.kind === 'tool' && bench.doc.tools?.[section.id]}
      <ToolsSection {bench} tool={section.id} />
    {:else if section.kind === 'back'}
      <BackSection {bench} />
    {:else if section.kind === 'stage' && bench.doc.stages[section.index]}
      <StageSection {bench} {work} index={section.index} />
    {/if}
  </Section>
{/each}
<div class="mt-3 w-64">
  <QuantityField
    label="New stage"
    value=""
    choices={[['', 'choose what is done …'], ...kinds]}
    error={bench.error('stages')}
    onchange={add}
  />
</div>
