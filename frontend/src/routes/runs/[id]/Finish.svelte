<script lang="ts">
  import { STATUS } from '#lib/kinds.ts';
  import type { Run } from '#lib/run.svelte.ts';
  import { session } from '#lib/session.svelte.ts';

  /** The end of a run: what is open, who signs. */
  let { run }: { run: Run } = $props();
  let reason = $state('');
  let words = $state('');
  const settle = (event: string, take: boolean) =>
    run.send('settle', '-', { event, take, reason: words.trim() }).then(() => (words = ''));
  const now = $derived(run.state!);
  const open = $derived(now.deviations.filter((d) => !d.accepted_by));
  const sign = (role: string) => run.send('sign_off', '-', { role });
</script>

<h1>{STATUS[now.status]}</h1>
<p class="text-lg">
  {now.done} steps answered{now.deviations.length ? `, ${now.deviations.length} deviation(s)` : ', no deviations'}.
</p>
{#each now.deviations as deviation (deviation.id)}
  <div class="rounded border p-3 {deviation.accepted_by ? '' : 'border-stop bg-stop-bg'}">
    <p class="text-lg">{deviation.text}</p>
    {#if deviation.advice && !deviation.accepted_by}<p class="soft">{deviation.advice}</p>{/if}
    {#if deviation.accepted_by}
      <p class="soft">accepted by {deviation.accepted_by}: {deviation.reason}</p>
    {:else if session.has('supervisor')}
      <label class="mt-2 grid gap-1 text-sm"
        >Why it can be accepted <input class="field" bind:value={reason} maxlength="1000" /></label
      >
      <button
        class="act mt-2 !min-h-14"
        disabled={!reason.trim()}
        onclick={() =>
          run.send('accept', deviation.step, { deviation: deviation.id, reason: reason.trim() }).then(() => (reason = ''))}
        >Accept this deviation</button
      >
    {:else if !deviation.advice}
      <p class="soft">A supervisor accepts it by name, with a reason.</p>
    {/if}
  </div>
{/each}
{#each now.conflicts as conflict (conflict.event)}
  <div class="rounded border p-3 {conflict.settled ? '' : 'border-caution bg-caution-bg'}">
    <p class="text-lg">Kept aside: {conflict.person} at {conflict.step}: {conflict.text}</p>
    {#if conflict.settled}
      <p class="soft">settled by {conflict.settled}: {conflict.reason}</p>
    {:else if session.has('supervisor')}
      <label class="mt-2 grid gap-1 text-sm"
        >What is true, and why <input class="field" bind:value={words} maxlength="1000" /></label
      >
      <div class="mt-2 flex flex-wrap gap-2">
        <button class="act !min-h-14" disabled={!words.trim()} onclick={() => settle(conflict.event, true)}
          >It holds: take it</button
        >
        <button class="act !min-h-14" disabled={!words.trim()} onclick={() => settle(conflict.event, false)}
          >Leave it aside</button
        >
      </div>
    {:else}<p class="soft">A supervisor settles it.</p>{/if}
  </div>
{/each}
{#if now.fitted.length}<p class="text-lg text-stop">Still fitted: {now.fitted.join(', ')}</p>{/if}
{#if now.provisional}<p class="text-lg text-caution">Tightened by feel: provisional. Recheck with the right tool at once.</p>{/if}
{#if now.status === 'finished' && now.unload?.length}<p class="text-lg">
    Unload {now.unload.join(' and ')}: turn back to the lowest mark before you put {now.unload.length > 1 ? 'them' : 'it'} away.
  </p>{/if}
{#each now.sign_offs as s (s.role)}<p>Signed as {s.role}: <b>{s.person}</b></p>{/each}
{#if now.status === 'finished' && session.has('fitter')}
  <button class="act main !min-h-20 !text-2xl" disabled={run.busy} onclick={() => sign('fitter')}>Sign as fitter</button>
{:else if now.status === 'signed' && session.has('supervisor')}
  <button class="act main !min-h-20 !text-2xl" disabled={run.busy || open.length > 0} onclick={() => sign('supervisor')}
    >Sign as supervisor</button
  >
{:else if now.status === 'signed'}
  <p class="soft text-lg">A supervisor signs next.</p>
{/if}
<a class="act !min-h-14" href="/runs/{run.id}/record">Open the record</a>
