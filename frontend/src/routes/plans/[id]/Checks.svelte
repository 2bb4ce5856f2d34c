<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { textOf, write, type Check, type Stage } from '#lib/plan.ts';
  import { sentence } from '#lib/sentence.ts';
  import MoreFields from './MoreFields.svelte';
  import Typed from './Typed.svelte';

  /** Checks, each with the limits within which it is right. */
  interface Props {
    bench: Bench;
    stage: Stage;
    checks: Check[];
    at: string;
  }
  let { bench, stage, checks, at }: Props = $props();

  /** Stages that may be done again: those before this one. */
  const before = $derived(
    bench.doc.stages
      .slice(0, bench.doc.stages.indexOf(stage))
      .map((s): [string, string] => [s.id, s.title || s.id]),
  );

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
        error={bench.error(`${here}/limit/${side}`) ||
          (side === 'min' ? bench.error(`${here}/limit`) : '')}
        onchange={(text) => limit(check, side, text)}
      />
    {/each}
    {#if check.back !== undefined}
      <div class="col-span-full">
        <QuantityField
          label={sentence('bench.check_back', { number: i + 1 })}
          value={check.back ?? ''}
          choices={[['', 'nowhere'], ...before]}
          error={bench.error(`${here}/back`)}
          onchange={(text) => write(check, 'back', text)}
        />
      </div>
    {/if}
    <div class="col-span-full">
      <MoreFields
        {bench}
        part={check}
        at={here}
        about="check"
        title={sentence('bench.more_check', { number: i + 1 })}
      />
    </div>
    {#if checks.length > 1}<Word
        class="pb-2 text-sm"
        label="Remove “{check.what}”"
        onclick={() => checks.splice(i, 1)}>Remove</Word
      >{/if}
  </div>
{/each}
<p class="flex gap-4 text-sm">
  <Word onclick={() => bench.act('add_check', { stage: stage.id })}>Add check</Word>
  {#if before.length && checks.some((c) => c.back === undefined)}
    <Word onclick={() => bench.act('add_ways_back', { stage: stage.id })}
      >Add ways back after a failure</Word
    >
  {/if}
</p>
