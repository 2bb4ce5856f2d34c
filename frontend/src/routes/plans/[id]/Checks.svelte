<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { textOf, write, type Check, type Stage } from '#lib/plan.ts';
  import Typed from './Typed.svelte';

  /** Checks, each with the limits within which it is right. */
  interface Props {
    bench: Bench;
    stage: Stage;
    checks: Check[];
    at: string;
  }
  let { bench, stage, checks, at }: Props = $props();

  function limit(check: Check, side: 'min' | 'max', text: string) {
    write((check.limit ??= {}), side, text.trim() ? text : '');
    if (!Object.keys(check.limit!).length) delete check.limit;
  }
</script>

{#each checks as check, i (check.id)}
  {@const here = `${at}/checks/${i}`}
  <div class="grid grid-cols-[1fr_72px_72px_auto] items-end gap-2">
    <Typed {bench} part={check} at={here} name="what" label="Check {i + 1}" />
    {#each [['min', 'from'], ['max', 'to']] as const as [side, label] (side)}
      <QuantityField
        {label}
        value={check.limit ? textOf(check.limit, side) : ''}
        example="–"
        error={bench.error(`${here}/limit/${side}`) || (side === 'min' ? bench.error(`${here}/limit`) : '')}
        onchange={(text) => limit(check, side, text)}
      />
    {/each}
    {#if checks.length > 1}<Word class="pb-2 text-sm" label="Take out “{check.what}”" onclick={() => checks.splice(i, 1)}
        >out</Word
      >{/if}
  </div>
{/each}
<Word class="justify-self-start text-sm" onclick={() => bench.act('add_check', { stage: stage.id })}>+ check</Word>
