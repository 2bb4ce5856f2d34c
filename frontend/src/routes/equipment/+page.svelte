<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Choice from '#lib/parts/Choice/Choice.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import RegisterForm, { type Field } from '#lib/parts/RegisterForm/RegisterForm.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { session } from '#lib/session.svelte.ts';
  import { EquipmentList } from './equipment.svelte.ts';
  import Later from '#lib/parts/Later.svelte';
  import Machine from './Machine.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';

  const list = new EquipmentList();
  const may = $derived(session.may('registers.register_equipment'));
  const uid = $props.id();
  /** As many machines as a screen shows are drawn at once, the others a moment later. */
  const AT_ONCE = 5;
  const MACHINE: Field[] = [
    { name: 'tag', label: 'Tag', example: 'BP-3' },
    { name: 'name', label: 'Name', example: 'Brine pump 3' },
    { name: 'site', label: 'Site', example: 'Saltworks' },
    { name: 'area', label: 'Area', example: 'Boiling house' },
  ];
  const site = $derived(list.sites.find((one) => one.id === list.site));
  /**
   * Where a new machine stands unless something else is said: the site that is looked at, or the
   * one with the most machines.
   */
  const usual = $derived(
    (site ?? list.sites.toSorted((a, b) => b.machines - a.machines)[0])?.name ?? '',
  );
  const places = $derived<[string, string][]>([
    ['', 'All sites'],
    ...list.sites.map((one): [string, string] => [one.id, one.name]),
  ]);
  void list.load();
  catalogue.need();
</script>

<svelte:head><title>Equipment · Orthotorq</title></svelte:head>
<PageHead title="Equipment" about="Machines and their bolted joints">
  {#snippet quiet()}
    {#if session.may('registers.export_register')}<Word href="/registers">Import and export</Word
      >{/if}
    {#if list.sites.length > 1}
      <span class="flex items-center gap-2">
        <Label for="{uid}-site" class="text-ink">Site</Label>
        <Choice
          id="{uid}-site"
          class="w-44"
          choices={places}
          value={list.site}
          onchange={(to) => list.at(to)}
        />
      </span>
    {/if}
    <span class="flex items-center gap-2">
      <Label for="{uid}-find" class="text-ink">Find</Label>
      <Input
        id="{uid}-find"
        class="w-56"
        value={list.sought}
        oninput={(e) => list.seek((e.currentTarget as HTMLInputElement).value)}
      />
    </span>
  {/snippet}
  {#snippet main()}
    {#if may}<Button
        disabled={!list.items}
        onclick={() => (list.form = { what: 'machine', id: '' })}>New machine</Button
      >{/if}
  {/snippet}
</PageHead>
<div class="page">
  <Failure text={list.page.failed || catalogue.failed} />
  {#if list.form?.what === 'machine'}
    <RegisterForm
      title="New machine"
      fields={MACHINE}
      values={{ site: usual }}
      action="Save"
      send={list.keepMachine}
      onclose={() => (list.form = null)}
    />
  {/if}
  {#if site}
    <p class="mb-4">
      {site.name}: {site.machines}
      {site.machines === 1 ? 'machine' : 'machines'}
      {#if session.may('registers.rename_site')}<Word
          onclick={() => (list.form = { what: 'site', id: site.id })}>Rename site</Word
        >{/if}
    </p>
    {#if list.form?.what === 'site'}
      <RegisterForm
        title="Site name"
        fields={[{ name: 'site', label: 'Name' }]}
        values={{ site: site.name }}
        action="Save"
        send={list.keepSite}
        onclose={() => (list.form = null)}
      />
    {/if}
  {/if}
  {#each list.items ?? [] as machine, i (machine.id)}
    {#if i < AT_ONCE}
      <Machine {list} {machine} {may} fields={MACHINE} />
    {:else}
      <Later><Machine {list} {machine} {may} fields={MACHINE} /></Later>
    {/if}
  {:else}
    {#if list.items}<p class="soft">
        {list.sought
          ? 'Nothing matches.'
          : may
            ? 'No machines are registered yet. Press “New machine”.'
            : 'No machines are registered yet.'}
      </p>{/if}
  {/each}
  {#if list.next}<Button color="alternative" onclick={() => list.load(list.next!)}
      >More machines</Button
    >{/if}
</div>
