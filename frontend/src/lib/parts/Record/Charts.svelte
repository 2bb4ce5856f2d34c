<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { sentence } from '#lib/sentence.ts';
  import Deviations from './DeviationChart.svelte';
  import Gaps from './GapChart.svelte';
  import Moved from './MovedChart.svelte';
  import Readings from './ReadingChart.svelte';

  /** Charts, as the server finds them worth drawing. */
  let { charts }: { charts: Schemas['Chart'][] } = $props();
  const DRAWN = { torque: Deviations, moved: Moved, gaps: Gaps, readings: Readings };
</script>

{#each charts as chart, i (i)}
  {@const Drawing = DRAWN[chart.kind]}
  <figure class="mt-3">
    <Drawing {chart} />
    <figcaption class="soft text-xs">
      {sentence('record.chart', {
        title: chart.title,
        unit: chart.unit || 'none',
        wanted: chart.wanted?.toFixed(0) ?? 'none',
      })}
    </figcaption>
  </figure>
{/each}
