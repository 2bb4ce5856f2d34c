<script lang="ts">
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import OpenConflict from './OpenConflict.svelte';
  import type { Desk } from './desk.svelte.ts';
  import OpenDeviation from './OpenDeviation.svelte';
  import Sign from './Sign.svelte';

  /** The end of a run: what is open, who signs. */
  let { run, desk }: { run: Run; desk: Desk } = $props();
  const now = $derived(run.state!);
  const unload = $derived(now.unload ?? []);
  const next = $derived(now.next_signature);
</script>

<h1>{now.status_text}</h1>
<p class="text-lg">
  {now.done} steps answered{now.deviations.length ? `, ${now.deviations.length} deviation(s)` : ', no deviations'}.
</p>
{#each now.deviations as deviation (deviation.id)}<OpenDeviation {run} {deviation} />{/each}
{#each now.conflicts as conflict (conflict.event)}<OpenConflict {run} {conflict} />{/each}
{#if now.fitted.length}<p class="text-lg text-stop">Still in: {now.fitted.join(', ')}</p>{/if}
{#if now.provisional}<p class="text-lg text-caution">
    Provisional: {(now.provisional_why ?? []).join('; ')}. Recheck with the right tool at once.
  </p>{/if}
{#if unload.length}<p class="text-lg">
    Unload {unload.join(' and ')}: turn back to the lowest mark before you put {unload.length > 1 ? 'them' : 'it'} away.
  </p>{/if}
{#each now.sign_offs as s (s.role)}<p>Signed as {s.role}: <b>{s.person}</b></p>{/each}
{#if next && run.may(`sign_${next}`)}
  <Sign {run} role={next} />
{:else if next}
  <p class="text-lg">
    <b>A {next} signs next</b>{now.deviations.some((d) => !d.accepted_by) ? ', when every deviation is accepted' : ''}: here, or
    on any device under Runs, run {run.view!.head.number}.
  </p>
{/if}
{#if run.may('correct') || run.may('note')}
  <div class="grid grid-cols-2 gap-2">
    <GloveButton look="quiet" disabled={!run.may('correct')} onclick={() => (desk.dialog = 'correct')}
      >Correct an answer</GloveButton
    >
    <GloveButton look="quiet" onclick={() => (desk.dialog = 'more')}>Note, photo, do a stage again</GloveButton>
  </div>
{/if}
<GloveButton look="quiet" href="/runs/{run.id}/record">Open the record</GloveButton>
