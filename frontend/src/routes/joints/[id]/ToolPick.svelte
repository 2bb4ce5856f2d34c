<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import Mark from '#lib/parts/Mark.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';

  /** A tool of the plan, to be taken by serial; how its calibration stands is said below. */
  interface Props {
    tool: Schemas['NeededTool'];
    serial: string;
    onchoose: (serial: string) => void;
  }
  let { tool, serial, onchoose }: Props = $props();
  const taken = $derived(tool.offers.find((o) => o.serial === serial));
</script>

<div class="grid gap-1">
  <QuantityField
    large
    label="{tool.words}: take"
    value={serial}
    choices={[
      ['', 'not named by serial'],
      ...tool.offers.map((o): [string, string] => [o.serial, o.words]),
    ]}
    onchange={onchoose}
  />
  {#if taken}
    <p class="flex items-center gap-2 text-sm {taken.good ? 'soft' : 'font-semibold text-caution'}">
      {#if !taken.good}<Mark severity="caution" />{/if}{taken.state}
    </p>
  {/if}
  {#each tool.blocked as words (words)}<p class="soft text-sm">Not {words}</p>{/each}
</div>
