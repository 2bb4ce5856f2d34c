<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, must, type Schemas } from '#lib/api/client.ts';

  /** Carries a torque into a plan: it becomes the target there, with where it came from as its reason. */
  let { torque, reason }: { torque: string; reason: string } = $props();
  let plans = $state<{ id: string; words: string }[] | null>(null);
  let chosen = $state('');
  let sought = $state('');
  let more = $state(false);

  async function ask() {
    const page = must(await api.GET('/api/v1/equipment', { params: { query: { find: sought, limit: 100 } } }));
    more ||= !!page.next;
    const items: Schemas['EquipmentView'][] = page.items;
    plans = items.flatMap((e) =>
      e.joints.flatMap((j) => j.plans.map((p) => ({ id: p.id, words: `${e.name} › ${j.name}: ${p.title}` }))),
    );
  }
  const use = () => goto(`/plans/${chosen}?${new URLSearchParams({ torque, reason: reason.slice(0, 400) })}`);
</script>

<div class="mt-4">
  {#if plans === null}
    <button class="act" onclick={ask}>Use {torque} in a plan …</button>
  {:else}
    <div class="flex flex-wrap items-end gap-2">
      {#if more}<label class="grid gap-1 text-sm text-soft"
          >Find a machine or joint <input class="field" bind:value={sought} onchange={ask} /></label
        >{/if}
      <label class="grid min-w-64 flex-1 gap-1 text-sm text-soft"
        >Plan
        <select class="field" bind:value={chosen}
          ><option value="">choose a plan</option>{#each plans as p (p.id)}<option value={p.id}>{p.words}</option>{/each}</select
        ></label
      >
      <button class="act main" disabled={!chosen} onclick={use}>Use {torque} there</button>
    </div>
  {/if}
</div>
