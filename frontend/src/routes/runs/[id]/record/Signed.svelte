<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { clock, day } from '#lib/figures.ts';
  import Mark from '#lib/parts/Mark.svelte';

  /** Tools, signatures, what was refused, and the chain that ties the entries together. */
  let { view }: { view: Schemas['RecordView'] } = $props();
  const record = $derived(view.record);
</script>

<section>
  <h2 class="border-b border-ink pb-1">Tools and signatures</h2>
  {#each record.tools as t, i (i)}
    <p class="flex gap-2 border-b py-1">
      {#if t.expired}<Mark severity="stop" />{/if}<span
        ><b>{t.serial}</b>
        {t.calibrated_until ? `calibrated until ${t.calibrated_until}` : 'no calibration'}{t.expired
          ? ', out of calibration at the start'
          : ''} · {t.pulls} pulls</span
      >
    </p>
  {/each}
  {#each record.sign_offs as s (s.role)}
    <p class="border-b py-1">
      {s.role}: <b>{s.person}</b>, {day(s.at)}
      {clock(s.at)}<br /><code class="soft text-xs break-all">{s.head_hash}</code>
    </p>
  {:else}<p class="soft py-1">Not signed yet.</p>{/each}
  {#each view.refusals as r, i (i)}<p class="border-b py-1 text-sm">
      <b>refused</b>
      {r.reason} <span class="soft">{r.person}, {clock(r.at)}</span>
    </p>{/each}
  <p class="soft mt-3 text-sm">
    Chain of {view.events} entries: {#if view.chain_holds}it holds{:else}<b class="text-stop">it does not hold</b>{/if}<br /><code
      class="text-xs break-all">{view.head_hash}</code
    >
  </p>
</section>
