<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';

  /** What is tightened, how much is open, whether everything is saved, and the way out. */
  let { run }: { run: Run } = $props();
  const open = $derived((run.state?.deviations ?? []).filter((d) => !d.accepted_by).length);
  const about = $derived(
    [
      run.view && `revision ${run.view.head.revision}`,
      run.view && `run ${run.view.head.number}`,
      run.state?.occasion_text,
      run.state?.history === 'unknown' ? 'history unknown' : '',
    ].filter(Boolean),
  );
  const waits = $derived(run.unsent.length);
  const theirs = $derived(run.others ? sentence('run.theirs', { count: run.others }) : '');
  const saved = $derived(
    run.offline
      ? sentence('run.no_connection', { count: waits })
      : waits
        ? `saving ${waits}`
        : 'all saved',
  );
</script>

<header
  class="top flex items-center gap-4 border-b bg-sheet px-4 py-[0.3rem] max-[500px]:gap-2.5 max-[500px]:px-2.5 max-[500px]:py-[0.1rem] short:py-0"
>
  {#if run.view}
    <p class="min-w-0 flex-1 truncate">
      <b>{run.view.head.equipment_name} › {run.view.head.joint_name}</b>
      <span class="soft ml-2 hidden text-sm sm:inline">{about.join(' · ')}</span>
    </p>
    {#if open}<span
        class="flex items-center text-sm"
        aria-label={sentence('run.deviations', { count: open })}
        ><svg width="13" height="13" class="mr-1" aria-hidden="true"
          ><rect width="13" height="13" fill="var(--stop)" /></svg
        ><b>{open}</b><span class="hidden sm:inline"
          >&nbsp;{sentence('run.deviations_word', { count: open })}</span
        ></span
      >{/if}
    {#if theirs}<span class="hidden text-sm text-caution md:inline">{theirs}</span>{/if}
    <span
      class="text-sm whitespace-nowrap {run.offline || waits > 2
        ? 'font-bold text-caution'
        : 'soft'}">{saved}</span
    >
    <Button
      color="alternative"
      class="min-h-[56px] min-w-24 text-[1.1rem]"
      href="/runs/{run.id}/record">Pause</Button
    >
  {/if}
</header>
