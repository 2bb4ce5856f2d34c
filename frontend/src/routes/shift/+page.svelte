<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { whole } from '#lib/figures.ts';
  import DueLine from '#lib/parts/Due/DueLine.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import Fold from '#lib/parts/Fold.svelte';
  import Lines from './Lines.svelte';

  /** What is to be done now, by role; everything is one step away. */
  const asked = new Asked<Schemas['ShiftView']>();
  const view = $derived(asked.value);
  void asked.ask(() => api.GET('/api/v1/shift'));
  const counted = $derived(
    !view?.due_count ? '' : `${view.due_count}${view.overdue_count ? `, ${view.overdue_count} of them overdue` : ''}`,
  );
</script>

<svelte:head><title>Shift · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-5xl px-6 py-6">
  <Failure text={asked.failed} />
  {#if view}
    <div class="mb-4 flex flex-wrap items-end justify-between gap-4">
      <div>
        <h1>Shift</h1>
        <p class="soft">{whole(view.today)}, {view.person}</p>
      </div>
      <div class="flex flex-wrap gap-3">
        <Button color="alternative" href="/due">Calendar</Button>
        <Button color="alternative" href="/api/v1/shift.pdf" target="_blank" rel="noopener">Day sheet (PDF)</Button>
      </div>
    </div>
    <section class="mb-7">
      <h2 class="border-b border-ink pb-1">
        To look at now {#if counted}<span class="soft font-normal">· {counted}</span>{/if}
      </h2>
      <ul>
        {#each view.dues as due (due.joint_id + due.rule)}<DueLine {due} />{:else}
          <li class="soft py-2">Nothing is due today.</li>{/each}
      </ul>
      {#if view.due_count > view.dues.length}<p class="soft py-2 text-sm">
          {view.due_count - view.dues.length} more stand in the <a href="/due">calendar</a>.
        </p>{/if}
      {#if view.soon.length}
        <div class="mt-3">
          <Fold title="In the next two weeks" more="· {view.soon.length}">
            <ul class="text-base">
              {#each view.soon as due (due.joint_id + due.rule)}<DueLine {due} />{/each}
            </ul>
          </Fold>
        </div>
      {/if}
    </section>
    <div class="grid gap-x-10 gap-y-7 md:grid-cols-2">
      {#each view.lists as list (list.id)}<Lines {list} />{/each}
    </div>
  {/if}
</div>
