<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import Deviations from './DeviationChart.svelte';
  import Gaps from './GapChart.svelte';
  import Moved from './MovedChart.svelte';

  /** The charts of one group, as the server finds them worth drawing. */
  let { charts }: { charts: Schemas['Chart'][] } = $props();
  const DRAWN = { torque: Deviations, moved: Moved, gaps: Gaps };
</script>

{#each charts as chart (chart.kind)}
  {@const Drawing = DRAWN[chart.kind]}
  <figure class="mt-3">
    <Drawing {chart} />
    <figcaption class="soft text-xs">
      {chart.title}{chart.wanted ? `: readings around ${chart.wanted.toFixed(0)} N·m` : ''}
    </figcaption>
  </figure>
{/each}
