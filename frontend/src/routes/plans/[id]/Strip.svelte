<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { kN } from '#lib/figures.ts';
  import { sentence } from '#lib/sentence.ts';
  import type { Tape } from './tape.svelte.ts';

  /**
   * The result in one line, in sight while one types where the picture does not fit beside the
   * fields.
   */
  let { bench, tape }: { bench: Bench; tape: Tape } = $props();
  const preload = $derived(tape.group?.preload);
  const set = $derived(tape.set?.pass.settings?.[0]?.text);
</script>

<p
  class="sticky bottom-0 z-10 flex flex-wrap gap-x-4 border-t bg-sheet px-4 py-1.5 text-sm md:hidden"
  role="status"
>
  {#if bench.stale}<b class="text-stop">figures from before the last change</b>{:else}
    {#if set}<b>{set}</b>{/if}
    {#if preload && !preload.beyond_yield}<span
        >{sentence('bench.verdict', {
          low: kN(preload.low_N),
          typical: kN(preload.typical_N),
          high: kN(preload.high_N),
          verdict: tape.group?.window?.verdict ?? 'none',
        })}</span
      >{/if}
    <span class={bench.stops ? 'text-stop' : 'soft'}
      >{sentence('bench.counts', { errors: bench.stops, warnings: bench.cautions })}</span
    >
  {/if}
</p>
