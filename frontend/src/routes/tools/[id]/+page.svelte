<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { page } from '$app/state';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Crumb from '#lib/parts/Crumb.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { session } from '#lib/session.svelte.ts';
  import ToolForm from '../ToolForm.svelte';
  import CheckForm from './CheckForm.svelte';
  import Checks from './Checks.svelte';
  import Reason from './Reason.svelte';
  import Touched from './Touched.svelte';

  /** A tool: how it stands, its checks, and what it has touched. */
  const path = { id: page.params.id! };
  const asked = new Asked<Schemas['ToolDetail']>();
  const sorts = new Asked<Schemas['ToolList']>();
  const detail = $derived(asked.value);
  let open = $state<'' | 'change' | 'check' | 'block' | 'release' | 'allow' | 'error'>('');
  let round = $state(0);
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
<div class="mx-auto max-w-5xl px-6 py-6">
  <Failure text={asked.failed || sorts.failed} />
  {#if detail}
    {@const tool = detail.tool}
    <Crumb steps={[['Tools', '/tools'], [tool.serial]]} />
    <h1>
      {tool.serial} <span class="soft ml-1 text-base font-normal">{tool.name}</span>
      {#if session.may('toolroom.change_tool')}<Word class="ml-3 text-sm" onclick={change}>change</Word>{/if}
    </h1>
    {#if tool.good}<p class="mb-3">{tool.state}{tool.corrected_text ? `; ${tool.corrected_text}` : ''}.</p>
    {:else}<Notice severity={tool.allowed ? 'caution' : 'stop'} class="my-3">
        <b>Not to be used now: {tool.state}.</b>
        {#if tool.allowed}Only now: {tool.allowed_text}.{/if}
      </Notice>{/if}
    <p class="soft mb-3">
      {[
        detail.held_to_words && `held to ${detail.held_to_words}: ${detail.limit_words}`,
        tool.sort === 'wrench' && `${tool.pulls} of ${tool.interval_pulls} pulls since its last good check`,
        `checked every ${detail.interval_months} months`,
        tool.place,
        tool.owner,
        tool.borrowed && 'borrowed',
      ]
        .filter(Boolean)
        .join(' · ')}
    </p>
    <div class="mb-4 flex flex-wrap gap-2">
      {#if tool.sort === 'wrench' && session.may('toolroom.check_tool')}<Button onclick={() => (open = 'check')}>Check it</Button
        >{/if}
      {#if session.may('toolroom.block_tool')}
        {#if tool.blocked}<Button color="alternative" onclick={() => (open = 'release')}>Let it go again</Button>
        {:else}<Button color="alternative" onclick={() => (open = 'block')}>Dropped or damaged: block it</Button>{/if}
      {/if}
      {#if !tool.good && session.may('toolroom.allow_tool')}<Button color="alternative" onclick={() => (open = 'allow')}
          >Let it be used for now</Button
        >{/if}
      {#if detail.may_correct && session.may('toolroom.use_with_error')}<Button
          color="alternative"
          onclick={() => (open = 'error')}>Use it with the error found</Button
        >{/if}
      <Button color="alternative" href="/api/v1/labels.pdf?what=tools&ids={tool.id}" target="_blank" rel="noopener"
        >Label (PDF)</Button
      >
    </div>
    {#if open === 'change' && sorts.value}<ToolForm list={sorts.value} {detail} onclose={shut} onkept={done} />
    {:else if open === 'check'}<CheckForm {detail} onclose={shut} onkept={load} />
    {:else if open && open !== 'change'}<Reason {detail} what={open} onclose={shut} ondone={done} />{/if}
    <Checks {detail} />
    {#if tool.sort === 'wrench'}{#key round}<Touched id={tool.id} />{/key}{/if}
  {/if}
</div>
