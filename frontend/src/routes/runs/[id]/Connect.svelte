<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import { sentence } from '#lib/sentence.ts';
  import type { Meter } from './meter.svelte.ts';

  /** Which measuring device is at hand. */
  let { meter, onclose }: { meter: Meter; onclose: () => void } = $props();
  let open = $state(true);
  $effect(() => {
    if (!open) onclose();
  });
  function take(id: string) {
    meter.connect(id);
    open = false;
  }
  const offered = $derived(meter.devices.filter((d) => d.answers !== 'check'));
</script>

<Modal bind:open title="Connect a wrench or gauge" size="md">
  <p>
    What it measures answers the step: torque, angle and the curve are kept in the record. Devices
    that are marked simulated measure nothing: they are for trying it out.
  </p>
  <div class="grid gap-2">
    {#each offered as device (device.id)}
      <GloveButton look="quiet" onclick={() => take(device.id)}
        >{sentence('wrench.device', {
          name: device.name,
          connected: device.id === meter.connected?.id ? 'yes' : 'no',
        })}</GloveButton
      >
    {:else}
      <p>No device answers: is there a connection to the server?</p>
    {/each}
    {#if meter.connected}<GloveButton look="quiet" onclick={() => take('')}
        >Disconnect, enter by hand</GloveButton
      >{/if}
  </div>
</Modal>
