<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Select from 'flowbite-svelte/Select.svelte';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import RegisterForm, { type Field } from '#lib/parts/RegisterForm/RegisterForm.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { session } from '#lib/session.svelte.ts';
  import { EquipmentList } from './equipment.svelte.ts';
  import Machine from './Machine.svelte';

  const list = new EquipmentList();
  const may = $derived(session.may('registers.register_equipment'));
  const uid = $props.id();
  const MACHINE: Field[] = [
    { name: 'tag', label: 'Tag', example: 'BP-3' },
    { name: 'name', label: 'Name', example: 'Brine pump 3' },
    { name: 'site', label: 'Site', example: 'Saltworks' },
    { name: 'area', label: 'Where it stands there', example: 'Boiling house' },
  ];
  const site = $derived(list.sites.find((one) => one.id === list.site));
  /** Where a new machine stands unless something else is said: the site that is looked at, or the one with the most machines. */
  const usual = $derived((site ?? list.sites.toSorted((a, b) => b.machines - a.machines)[0])?.name ?? '');
  const places = $derived([{ value: '', name: 'All sites' }, ...list.sites.map((one) => ({ value: one.id, name: one.name }))]);
  void list.load();
  catalogue.need();
</script>

<svelte:head><title>Equipment · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-5xl px-6 py-6">
  <div class="mb-5 flex flex-wrap items-end justify-between gap-4">
    <div>
      <h1>Equipment</h1>
      <p class="soft">Machines and their bolted joints</p>
    </div>
    <div class="flex flex-wrap items-end gap-3">
      {#if list.sites.length > 1}
        <div class="flex items-center gap-2">
          <Label for="{uid}-site" class="text-ink">Site</Label>
          <Select
            id="{uid}-site"
            class="w-44"
            items={places}
            placeholder=""
            value={list.site}
            onchange={(e) => list.at((e.currentTarget as HTMLSelectElement).value)}
          />
        </div>
      {/if}
      <div class="flex items-center gap-2">
        <Label for="{uid}-find" class="text-ink">Find</Label>
        <Input
          id="{uid}-find"
          class="w-56"
          value={list.sought}
          oninput={(e) => list.seek((e.currentTarget as HTMLInputElement).value)}
        />
      </div>
      {#if session.may('registers.export_register')}<Button color="alternative" href="/registers">Lists in and out</Button>{/if}
      {#if may}<Button color="alternative" disabled={!list.items} onclick={() => (list.form = { what: 'machine', id: '' })}
          >New machine</Button
        >{/if}
    </div>
  </div>
  <Failure text={list.page.failed || catalogue.failed} />
  {#if list.form?.what === 'machine'}
    <RegisterForm
      title="A new machine"
      fields={MACHINE}
      values={{ site: usual }}
      action="Keep it"
      send={list.keepMachine}
      onclose={() => (list.form = null)}
    />
  {/if}
  {#if site}
    <p class="mb-4">
      {site.name}: {site.machines}
      {site.machines === 1 ? 'machine' : 'machines'}
      {#if session.may('registers.rename_site')}<Word onclick={() => (list.form = { what: 'site', id: site.id })}
          >call it otherwise</Word
        >{/if}
    </p>
    {#if list.form?.what === 'site'}
      <RegisterForm
        title="What this site is called"
        fields={[{ name: 'site', label: 'Name' }]}
        values={{ site: site.name }}
        action="Keep it"
        send={list.keepSite}
        onclose={() => (list.form = null)}
      />
    {/if}
  {/if}
  {#each list.items ?? [] as machine (machine.id)}<Machine {list} {machine} {may} fields={MACHINE} />{:else}
    {#if list.items}<p class="soft">
        {list.sought ? 'Nothing matches.' : `No machines are registered yet${may ? ': begin with “New machine”' : ''}.`}
      </p>{/if}
  {/each}
  {#if list.next}<Button color="alternative" onclick={() => list.load(list.next!)}>More machines</Button>{/if}
</div>
