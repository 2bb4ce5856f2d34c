<script lang="ts">
  import FilePick from '#lib/parts/FilePick.svelte';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import type { Meter } from './meter.svelte.ts';

  /** The connected device: pull or read, and what it said last. */
  let { meter }: { meter: Meter } = $props();
  const result = $derived(meter.result);
  const good = $derived(!result || result.code === 'good');
  const told = $derived(
    result &&
      [`${meter.label}: ${result.says}`, result.torque, result.readings.join(', '), result.seen]
        .filter(Boolean)
        .join(' · '),
  );
  const words = $derived(
    meter.connected?.answers === 'length' ? 'Read the gauge' : 'Pull with the wrench',
  );
  const key = $derived(meter.connected?.answers === 'pull' ? 'space' : '');
</script>

{#if meter.connected && meter.fits}
  <GloveButton look="huge" {key} disabled={meter.measuring} onclick={meter.measure}
    >{meter.measuring ? 'Measuring …' : words}</GloveButton
  >
{/if}
{#if told && good}<p class="soft text-[1.05rem]" role="status">{told}</p>{/if}
{#if told && !good && meter.fits}<p
    class="flex items-center gap-2 text-[1.05rem] font-bold text-stop"
    role="status"
  >
    <Mark severity="stop" />{told}
  </p>{/if}
{#if meter.failed}<p class="font-bold text-stop" role="alert">{meter.failed}</p>{/if}
{#if meter.connected && meter.fits}
  <div class="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm max-[500px]:hidden short:hidden">
    <span class="soft">{meter.connected.name}</span>
    {#if meter.connected.answers === 'pull'}
      <span class="w-44"
        ><QuantityField
          label="The joint is"
          value={meter.joint}
          choices={meter.joints.map((j): [string, string] => [j.id, j.name])}
          onchange={(id) => (meter.joint = id)}
        /></span
      >
      <FilePick words="A pull from a file …" accept=".csv,text/csv" onpick={meter.fromFile} />
    {/if}
  </div>
{/if}
