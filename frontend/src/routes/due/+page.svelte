<script lang="ts">
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import DueLine from '#lib/parts/Due/DueLine.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import Month from './Month.svelte';
  import { monthOf, shifted } from './month.ts';
  import Subscribe from './Subscribe.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';
  import Word from '#lib/parts/Word.svelte';

  /** What comes when: one month, and what has no day yet. */
  const asked = new Asked<Schemas['DueList']>();
  let month = $state(monthOf(new Date()));
  const all = $derived(asked.value?.items ?? []);
  void asked.ask(() => api.GET('/api/v1/due-dates', { params: { query: { limit: 1000 } } }));
  const open = $derived(all.filter((due) => !due.day));
  const now = $derived(all.filter((due) => due.state === 'overdue' || due.state === 'due'));
  const coming = $derived(all.filter((due) => due.day?.startsWith(month) && !now.includes(due)));
</script>

<svelte:head><title>Calendar · Orthotorq</title></svelte:head>
<PageHead where={[['Shift', '/shift'], ['Calendar']]} title="Calendar">
  {#snippet quiet()}
    <Word onclick={() => (month = shifted(month, -1))}>Previous month</Word>
    <Word onclick={() => (month = monthOf(new Date()))}>This month</Word>
    <Word onclick={() => (month = shifted(month, 1))}>Next month</Word>
  {/snippet}
</PageHead>
<div class="page">
  <Failure text={asked.failed} />
  <Month {month} dues={all} />
  {#each [['Now', now, 'Nothing is due today.'], ['In this month', coming, 'Nothing else falls into this month.'], ['Without a day', open, 'Everything has its day.']] as const as [title, dues, empty] (title)}
    <section class="mt-6">
      <h2 class="border-b border-ink pb-1">
        {title} <span class="soft font-normal">· {dues.length}</span>
      </h2>
      <ul>
        {#each dues as due (due.joint_id + due.rule)}<DueLine {due} />{:else}<li class="soft py-2">
            {empty}
          </li>{/each}
      </ul>
    </section>
  {/each}
  <Subscribe />
</div>
