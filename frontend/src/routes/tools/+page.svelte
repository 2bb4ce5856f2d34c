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
          `${tool.serial} ${tool.name} ${tool.kind} ${tool.place} ${tool.owner} ${tool.state}`.toLowerCase().includes(word),
        ),
    ),
  );
  const wrong = $derived(found.filter((tool) => !tool.good));
  const good = $derived(found.filter((tool) => tool.good));
</script>

<svelte:head><title>Tools · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-5xl px-6 py-6">
  <div class="mb-5 flex flex-wrap items-end justify-between gap-4">
    <div>
      <h1>Tools</h1>
      <p class="soft">Wrenches and what belongs to them, by serial</p>
    </div>
    <div class="flex flex-wrap items-end gap-3">
      <div class="flex items-center gap-2">
        <Label for="{uid}-find" class="text-ink">Find</Label>
        <Input id="{uid}-find" class="w-48" bind:value={sought} />
      </div>
      <Button color="alternative" href="/api/v1/labels.pdf?what=tools" target="_blank" rel="noopener">Labels (PDF)</Button>
      {#if session.may('registers.look_at_register')}<Button color="alternative" href="/registers">Lists in and out</Button>{/if}
      {#if session.may('toolroom.register_tool')}<Button color="alternative" onclick={() => (adding = true)}>New tool</Button
        >{/if}
    </div>
  </div>
  <Failure text={asked.failed} />
  {#if adding && asked.value}
    <ToolForm list={asked.value} onclose={() => (adding = false)} onkept={(id) => void goto(`/tools/${id}`)} />
  {/if}
  {#if wrong.length}
    <h2 class="border-b border-ink pb-1">Not to be used now <span class="soft font-normal">· {wrong.length}</span></h2>
    <ul class="mb-6">
      {#each wrong as tool (tool.id)}<ToolLine {tool} />{/each}
    </ul>
  {/if}
  {#if asked.value}
    <h2 class="border-b border-ink pb-1">Good <span class="soft font-normal">· {good.length}</span></h2>
    <ul>
      {#each good as tool (tool.id)}<ToolLine {tool} />{:else}<li class="soft py-2">
          {sought ? 'Nothing matches.' : 'No tool is registered yet: begin with “New tool”.'}
        </li>{/each}
    </ul>
  {/if}
</div>
