<script lang="ts">
  import { goto } from '$app/navigation';
  import Button from 'flowbite-svelte/Button.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { sentence } from '#lib/sentence.ts';

  /**
   * Carries a torque into a plan: it becomes the target there, with where it came from as its
   * reason.
   */
  let { torque, reason }: { torque: string; reason: string } = $props();
  const asked = new Asked<Schemas['EquipmentList']>();
  let chosen = $state('');
  let sought = $state('');
  let more = $state(false);
  const plans = $derived(
    (asked.value?.items ?? []).flatMap((e) =>
      e.joints.flatMap((j) =>
        j.plans.map((p): [string, string] => [p.id, `${e.name} › ${j.name}: ${p.title}`]),
      ),
    ),
  );

  async function ask() {
    const query = { find: sought, limit: 100 };
    const page = await asked.ask(() => api.GET('/api/v1/equipment', { params: { query } }));
    more ||= !!page?.next;
  }
  const use = () =>
    goto(`/plans/${chosen}?${new URLSearchParams({ torque, reason: reason.slice(0, 400) })}`);
</script>

<div class="mt-4">
  <Failure text={asked.failed} />
  {#if !asked.value}
    <Button color="alternative" onclick={ask}>{sentence('sums.use', { torque })}</Button>
  {:else}
    <div class="flex flex-wrap items-end gap-2">
      {#if more}<QuantityField
          label="Find a machine or joint"
          value={sought}
          onchange={(text) => ((sought = text), void ask())}
        />{/if}
      <div class="min-w-64 flex-1">
        <QuantityField
          label="Plan"
          value={chosen}
          choices={[['', 'choose a plan'], ...plans]}
          onchange={(id) => (chosen = id)}
        />
      </div>
      <Button disabled={!chosen} onclick={use}>{sentence('sums.use_there', { torque })}</Button>
    </div>
  {/if}
</div>
