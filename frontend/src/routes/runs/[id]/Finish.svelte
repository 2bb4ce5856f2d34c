<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';
  import OpenConflict from './OpenConflict.svelte';
  import type { Desk } from './desk.svelte.ts';
  import OpenDeviation from './OpenDeviation.svelte';
  import Sign from './Sign.svelte';

  /** The end of a run: what is open, who signs. */
  let { run, desk }: { run: Run; desk: Desk } = $props();
  const now = $derived(run.state!);
  const unload = $derived(now.unload ?? []);
  const next = $derived(now.next_signature);
  const uid = $props.id();
  let reason = $state('');
  async function goOn() {
    if (run.lost) await run.takeOver();
    await run.send('continue', '-', { reason: reason.trim() });
  }
</script>

<h1 class="first-letter:uppercase">{now.status_text}</h1>
<p class="text-lg">
  {sentence('run.answered', { count: now.done, deviations: now.deviations.length })}
</p>
{#if now.failed?.length}
  <div class="grid gap-2 rounded border-[3px] border-stop bg-stop-bg p-3 text-lg">
    <p class="flex items-center gap-2 text-xl font-bold text-stop">
      <Mark severity="stop" />Do not use
    </p>
    {#each now.failed as words (words)}<p>{words}</p>{/each}
    <p>
      <b
        >{now.left_locked
          ? 'Locks, guards and supports stay on.'
          : 'Stop the machine and lock it out again.'}</b
      >
      Tell the supervisor and who starts the machine. Hang the tag on it.
    </p>
    <GloveButton look="quiet" href="/api/v1/joints/{run.view!.head.joint_id}/tag.pdf"
      >Print tag</GloveButton
    >
  </div>
{/if}
{#each now.deviations as deviation (deviation.id)}<OpenDeviation {run} {deviation} />{/each}
{#each now.conflicts as conflict (conflict.event)}<OpenConflict {run} {conflict} />{/each}
{#if now.fitted.length}<p class="text-lg {now.left_locked ? '' : 'text-stop'}">
    {sentence('run.still_in', { parts: now.fitted.join(', ') })}
  </p>{/if}
{#if now.leaves}<p class="text-lg text-caution">{now.leaves}</p>{/if}
{#if now.provisional}<p class="text-lg text-caution">
    {sentence('run.provisional', { why: (now.provisional_why ?? []).join('; ') })}
  </p>{/if}
{#if unload.length}<p class="text-lg">
    {sentence('run.unload', { tools: unload.join(' and '), count: unload.length })}
  </p>{/if}
{#each now.sign_offs as s (s.role)}<p>
    <Sentence key="run.signed" values={{ role: s.role, person: s.person }} />
  </p>{/each}
{#if next && run.may(`sign_${next}`)}
  <Sign {run} role={next} />
{:else if next}
  <p class="text-lg">
    <Sentence
      key="run.signs_next"
      values={{
        role: next,
        open: now.deviations.some((d) => !d.accepted_by) ? 'yes' : 'no',
        number: run.view!.head.number,
      }}
    />
  </p>
{/if}
{#if run.may('continue')}
  {#if run.view!.cannot_continue}
    <p class="text-lg">{sentence('run.cannot_continue', { why: run.view!.cannot_continue })}</p>
  {:else}
    <form
      class="grid gap-2"
      onsubmit={(event) => {
        event.preventDefault();
        void goOn();
      }}
    >
      <p class="text-lg">
        Nothing has set or was changed since. Condition, locks, bolts and tools are asked for first;
        then the run continues at the step where it ended.
      </p>
      <Label for="{uid}-why" class="text-lg">Reason to continue</Label>
      <Input
        id="{uid}-why"
        class="min-h-[56px] text-lg"
        bind:value={reason}
        maxlength={1000}
        autocomplete="off"
      />
      <GloveButton type="submit" look="main" disabled={!reason.trim() || run.busy}
        >Continue this run</GloveButton
      >
    </form>
  {/if}
{/if}
{#if run.may('correct') || run.may('note')}
  <div class="grid grid-cols-2 gap-2">
    <GloveButton
      look="quiet"
      disabled={!run.may('correct')}
      onclick={() => (desk.dialog = 'correct')}>Correct an answer</GloveButton
    >
    <GloveButton look="quiet" onclick={() => (desk.dialog = 'more')}
      >Note, photo, repeat stage</GloveButton
    >
  </div>
{/if}
<GloveButton look="quiet" href="/runs/{run.id}/record">Open the record</GloveButton>
