<script lang="ts">
  import { goto } from '$app/navigation';
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import { session } from '#lib/session.svelte.ts';
  import ToolForm from './ToolForm.svelte';
  import ToolLine from './ToolLine.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';
  import Word from '#lib/parts/Word.svelte';

  /** Every tool of the tool room, what needs something first. */
  const asked = new Asked<Schemas['ToolList']>();
  void asked.ask(() => api.GET('/api/v1/tools'));
  let sought = $state('');
  let adding = $state(false);
  const uid = $props.id();
  const found = $derived(
    (asked.value?.items ?? []).filter((tool) =>
      sought
        .toLowerCase()
        .split(/\s+/)
        .every((word) =>
          `${tool.serial} ${tool.name} ${tool.kind} ${tool.place} ${tool.owner} ${tool.state}`
            .toLowerCase()
            .includes(word),
        ),
    ),
  );
  const wrong = $derived(found.filter((tool) => !tool.good));
  const good = $derived(found.filter((tool) => tool.good));
</script>

<svelte:head><title>Tools · Orthotorq</title></svelte:head>
<PageHead title="Tools" about="Wrenches and what belongs to them, by serial">
  {#snippet quiet()}
    <Word href="/api/v1/labels.pdf?what=tools" target="_blank" rel="noopener">Print labels</Word>
    {#if session.may('registers.look_at_register')}<Word href="/registers">Import and export</Word
      >{/if}
    <span class="flex items-center gap-2">
      <Label for="{uid}-find" class="text-ink">Find</Label>
      <Input id="{uid}-find" class="w-48" bind:value={sought} />
    </span>
  {/snippet}
  {#snippet main()}
    {#if session.may('toolroom.register_tool')}<Button onclick={() => (adding = true)}
        >New tool</Button
      >{/if}
  {/snippet}
</PageHead>
<div class="page">
  <Failure text={asked.failed} />
  {#if adding && asked.value}
    <ToolForm
      list={asked.value}
      onclose={() => (adding = false)}
      onkept={(id) => void goto(`/tools/${id}`)}
    />
  {/if}
  {#if wrong.length}
    <h2 class="border-b border-ink pb-1">
      Blocked <span class="soft font-normal">· {wrong.length}</span>
    </h2>
    <ul class="mb-6">
      {#each wrong as tool (tool.id)}<ToolLine {tool} />{/each}
    </ul>
  {/if}
  {#if asked.value}
    <h2 class="border-b border-ink pb-1">
      Good <span class="soft font-normal">· {good.length}</span>
    </h2>
    <ul>
      {#each good as tool (tool.id)}<ToolLine {tool} />{:else}<li class="soft py-2">
          {sought ? 'Nothing matches.' : 'No tool is registered yet: press “New tool”.'}
        </li>{/each}
    </ul>
  {/if}
</div>
