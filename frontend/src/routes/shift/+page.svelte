<script lang="ts">
  import { api, BACKGROUND, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { whole } from '#lib/figures.ts';
  import DueLine from '#lib/parts/Due/DueLine.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import { whileSeen } from '#lib/seen.ts';
  import Lines from './Lines.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';
  import Word from '#lib/parts/Word.svelte';

  /** What is to be done now, by role; everything is one step away. */
  const asked = new Asked<Schemas['ShiftView']>();
  const view = $derived(asked.value);
  void asked.ask(() => api.GET('/api/v1/shift'));
  // a joint that must not be used is told to whoever has this screen open
  $effect(() =>
    whileSeen(() => void asked.ask(() => api.GET('/api/v1/shift', { headers: BACKGROUND }))),
  );
  const first = $derived((view?.lists ?? []).filter((list) => list.id === 'unfit'));
  /** Empty lists are left out. */
  const shown = $derived((view?.lists ?? []).filter((list) => list.id !== 'unfit' && list.count));
  const counted = $derived(
    !view?.due_count
      ? ''
      : `${view.due_count}${view.overdue_count ? `, ${view.overdue_count} overdue` : ''}`,
  );
</script>

<svelte:head><title>Shift · Orthotorq</title></svelte:head>
<PageHead title="Shift" about={view ? `${whole(view.today)}, ${view.person}` : ''}>
  {#snippet quiet()}
    <Word href="/due">Calendar</Word>
    <Word href="/api/v1/shift.pdf" target="_blank" rel="noopener">Print day sheet</Word>
  {/snippet}
</PageHead>
<div class="page">
  <Failure text={asked.failed} />
  {#if view}
    <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1.7fr)_minmax(0,1fr)]">
      <div class="grid min-w-0 content-start gap-6">
        <div aria-live="polite">
          {#each first as list (list.id)}<Lines {list} />{/each}
        </div>
        <section>
          <h2 class="border-b border-ink pb-1">
            Due now {#if counted}<span class="soft font-normal">{counted}</span>{/if}
          </h2>
          <ul>
            {#each view.dues as due, i (due.joint_id + due.rule)}<DueLine
                {due}
                first={i === 0 && !first[0]?.count}
              />{:else}
              <li class="soft py-2">Nothing is due today.</li>{/each}
          </ul>
          {#if view.due_count > view.dues.length}<p class="soft py-2 text-sm">
              <Sentence
                key="shift.more_due"
                values={{ count: view.due_count - view.dues.length }}
                href="/due"
              />
            </p>{/if}
        </section>
        {#each shown.filter((list) => list.id === 'in_progress') as list (list.id)}<Lines
            {list}
          />{/each}
        {#if view.soon.length}
          <section>
            <h2 class="flex items-baseline justify-between border-b border-ink pb-1">
              <span>Next two weeks <span class="soft font-normal">{view.soon.length}</span></span>
              <Word class="text-sm" href="/due">Open calendar</Word>
            </h2>
            <ul>
              {#each view.soon as due (due.joint_id + due.rule)}<DueLine {due} />{/each}
            </ul>
          </section>
        {/if}
      </div>
      <div class="grid min-w-0 content-start gap-6">
        {#each shown.filter((list) => list.id !== 'in_progress') as list (list.id)}<Lines
            {list}
          />{/each}
      </div>
    </div>
  {/if}
</div>
