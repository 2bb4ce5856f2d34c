<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { page } from '$app/state';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';
  import ToolForm from '../ToolForm.svelte';
  import CheckForm from './CheckForm.svelte';
  import Checks from './Checks.svelte';
  import Reason from './Reason.svelte';
  import Touched from './Touched.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';

  /** A tool: its state, its checks, and the bolts tightened with it. */
  const path = { id: page.params.id! };
  const asked = new Asked<Schemas['ToolDetail']>();
  const sorts = new Asked<Schemas['ToolList']>();
  const detail = $derived(asked.value);
  let open = $state<'' | 'change' | 'check' | 'block' | 'release' | 'allow' | 'error'>('');
  let round = $state(0);
  let used = $state<number[]>([]);
  async function load() {
    await asked.ask(() => api.GET('/api/v1/tools/{id}', { params: { path } }));
    round++;
  }
  void load();
  const shut = () => (open = '');
  function done() {
    shut();
    void load();
  }
  async function change() {
    await sorts.ask(() => api.GET('/api/v1/tools'));
    open = 'change';
  }
</script>

<svelte:head><title>{detail?.tool.serial ?? 'Tool'} · Orthotorq</title></svelte:head>
{#if detail}
  {@const tool = detail.tool}
  <PageHead where={[['Tools', '/tools'], [tool.serial]]} title={tool.serial} about={tool.name}>
    {#snippet quiet()}
      {#if session.may('toolroom.block_tool') && !tool.blocked}<Word
          onclick={() => (open = 'block')}>Block tool</Word
        >{/if}
      <Word href="/api/v1/labels.pdf?what=tools&ids={tool.id}" target="_blank" rel="noopener"
        >Print label</Word
      >
      {#if session.may('toolroom.change_tool')}<Word onclick={change}>Edit tool</Word>{/if}
    {/snippet}
    {#snippet main()}
      {#if tool.sort === 'wrench' && session.may('toolroom.check_tool')}<Button
          onclick={() => (open = 'check')}>Record calibration check</Button
        >{/if}
    {/snippet}
  </PageHead>
{/if}
<div class="page">
  <Failure text={asked.failed || sorts.failed} />
  {#if detail}
    {@const tool = detail.tool}
    {#if tool.good}<p class="mb-3">
        {tool.state}{tool.corrected_text ? `; ${tool.corrected_text}` : ''}.
      </p>
    {:else}<Notice severity={tool.allowed ? 'caution' : 'stop'} class="my-3">
        <b class="inline-block first-letter:uppercase">{tool.state}.</b>
        {#if tool.allowed}{sentence('tool.only_now', { reason: tool.allowed_text })}{/if}
      </Notice>{/if}
    <p class="soft mb-3">
      {[
        detail.held_to_words &&
          sentence('tool.held_to', { standard: detail.held_to_words, limit: detail.limit_words }),
        tool.sort === 'wrench' &&
          sentence('tool.pulls', { pulls: tool.pulls, interval: tool.interval_pulls }),
        sentence('tool.months', { count: detail.interval_months }),
        tool.place,
        tool.owner,
        tool.borrowed && 'borrowed',
      ]
        .filter(Boolean)
        .join(' · ')}
    </p>
    <div class="mb-4 flex flex-wrap gap-2">
      {#if session.may('toolroom.block_tool') && tool.blocked}<Button
          color="alternative"
          onclick={() => (open = 'release')}>Unblock tool</Button
        >{/if}
      {#if !tool.good && session.may('toolroom.allow_tool')}<Button
          color="alternative"
          onclick={() => (open = 'allow')}>Allow for now, with a reason</Button
        >{/if}
      {#if detail.may_correct && session.may('toolroom.use_with_error')}<Button
          color="alternative"
          onclick={() => (open = 'error')}>Use with correction</Button
        >{/if}
    </div>
    {#if open === 'change' && sorts.value}<ToolForm
        list={sorts.value}
        {detail}
        onclose={shut}
        onkept={done}
      />
    {:else if open === 'check'}<CheckForm {detail} onclose={shut} onkept={load} />
    {:else if open && open !== 'change'}<Reason
        {detail}
        what={open}
        onclose={shut}
        ondone={done}
      />{/if}
    <div class="grid gap-x-10 lg:grid-cols-[440px_minmax(0,1fr)]">
      <div class="min-w-0"><Checks {detail} {used} /></div>
      {#if tool.sort === 'wrench'}<div class="min-w-0">
          {#key round}<Touched id={tool.id} bind:used />{/key}
        </div>{/if}
    </div>
  {/if}
</div>
