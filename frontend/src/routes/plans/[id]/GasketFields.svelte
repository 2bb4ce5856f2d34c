<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import Word from '#lib/parts/Word.svelte';
  import type { Group } from '#lib/plan.ts';
  import Typed from './Typed.svelte';

  /** The gasket between the parts, where there is one. */
  let { bench, group, at }: { bench: Bench; group: Group; at: string } = $props();
  /** [name, label, example] */
  const FIELDS: [string, string, string?][] = [
    ['outside', 'Gasket outside'],
    ['inside', 'inside'],
    ['seating', 'seats at', 'not given'],
    ['service', 'service needs', 'not given'],
    ['damage', 'damaged at', 'not given'],
  ];
</script>

{#if group.gasket}
  <div class="grid grid-cols-3 gap-2">
    {#each FIELDS as [name, label, example] (name)}
      <Typed {bench} part={group.gasket} at="{at}/gasket" {name} {label} {example} />
    {/each}
    <Word class="self-end justify-self-start text-sm" onclick={() => bench.act('set_gasket', { group: group.id, on: 'no' })}
      >no gasket</Word
    >
  </div>
{:else}
  <Word class="justify-self-start text-sm" onclick={() => bench.act('set_gasket', { group: group.id, on: 'yes' })}>+ gasket</Word>
{/if}
