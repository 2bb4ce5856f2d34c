<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { atDecimal, small } from '#lib/figures.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import WindowGauge from '#lib/parts/WindowGauge/WindowGauge.svelte';
  import Steps from '#lib/parts/Working/Steps.svelte';
  import WrenchCard from '#lib/parts/WrenchCard/WrenchCard.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';
  import type { Sum } from './sum.svelte.ts';
  import UseInPlan from './UseInPlan.svelte';

  /** What a sum comes to: its figures, drawn where they can be, with the working. */
  let { sum, typed, found }: { sum: Schemas['SumOut']; typed: Sum; found: Schemas['SumAnswer'] } =
    $props();
  const values = $derived(atDecimal(found.figures.map((figure) => figure.value)));
</script>

{#if typed.stale}<Notice severity="stop" role="status" class="mb-2"
    >Not current: correct the marked field.</Notice
  >{/if}
<dl class="sheet grid grid-cols-1 divide-y">
  {#each found.figures as figure, i (figure.key)}
    <div class="flex flex-wrap items-baseline gap-x-4 px-4 py-2">
      <dt class="soft w-44 shrink-0">{figure.name}</dt>
      <dd class={figure.value.length > 24 ? 'text-lg font-semibold' : 'text-2xl font-bold'}>
        {values[i]} <span class="soft text-base font-normal">{figure.second}</span>
      </dd>
    </div>
  {/each}
</dl>
{#if found.gauge}<div class="mt-4 max-w-md">
    <WindowGauge preload={found.gauge.preload} limits={found.gauge.limits} />
  </div>{/if}
{#if found.card}<div class="mt-4">
    <WrenchCard setting={found.card} title={small(sum.title)} />
  </div>{/if}
{#each found.notes as note (note)}<p class="soft mt-2 text-sm">{note}</p>{/each}
{#if found.carried && session.may('planning.edit_draft')}<UseInPlan
    torque={found.carried}
    reason={sentence('sums.reason', {
      sum: small(sum.title),
      values: Object.values(typed.texts).filter(Boolean).join(', '),
    })}
  />{/if}
{#if found.steps.length}
  <div class="mt-4"><Fold title="Working"><Steps steps={found.steps} /></Fold></div>
{/if}
