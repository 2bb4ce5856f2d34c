<script lang="ts">
  import { api, type Schemas } from '#lib/api/client.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { kN, small } from '#lib/figures.ts';

  /** Another lubricant from the store: what it does at the same torque, and what to set for the same clamp. */
  let { bench, group }: { bench: Bench; group: string } = $props();
  let items = $state<Schemas['AlternativeOut'][] | null>(null);
  let open = $state(false);

  $effect(() => {
    if (!open || bench.stale) return;
    const document = $state.snapshot(bench.doc);
    api.POST('/api/v1/other-lubricants', { body: { document, group } }).then(({ data }) => (items = data?.items ?? []));
  });
  function take(one: Schemas['AlternativeOut']) {
    const g = bench.doc.groups.find((x: { id: string }) => x.id === group);
    g.friction = { lubricant: one.lubricant };
    bench.doc.targets[group] = {
      kind: 'torque',
      torque: `${Number(one.same_clamp_Nm.toPrecision(3))} N·m`,
      reason: `same clamp with ${small(one.name)}`,
    };
  }
</script>

<details bind:open class="text-sm">
  <summary class="cursor-pointer text-soft">Another lubricant from the store</summary>
  {#if items}
    <table class="mt-1 w-full">
      <thead class="soft text-left"
        ><tr
          ><th class="font-normal">In store</th><th class="font-normal">same torque gives</th><th class="font-normal"
            >same clamp: set</th
          ><th></th></tr
        ></thead
      >
      <tbody>
        {#each items as one (one.lubricant)}
          <tr class="border-t">
            <td class="py-1"
              >{one.name}{#if one.forbidden.length}<span class="soft block">not on: {one.forbidden.join(', ')}</span>{/if}</td
            >
            <td class="py-1">{kN(one.typical_N)} kN, {one.change >= 0 ? '+' : ''}{(one.change * 100).toFixed(0)} %</td>
            <td class="py-1 font-semibold">{Number(one.same_clamp_Nm.toPrecision(3))} N·m</td>
            <td class="py-1"><button class="link" onclick={() => take(one)}>take</button></td>
          </tr>
        {:else}
          <tr><td class="soft py-1" colspan="4">Nothing is marked as in store. Mark lubricants in Tables.</td></tr>
        {/each}
      </tbody>
    </table>
  {/if}
</details>
