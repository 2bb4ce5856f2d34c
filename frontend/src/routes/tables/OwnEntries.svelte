<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { api, problemText } from '#lib/api/client.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import { day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import TestedBand from '#lib/parts/TestedBand.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { textOf } from '#lib/plan.ts';
  import { session } from '#lib/session.svelte.ts';
  import { OwnForm } from './own.svelte.ts';
  import type { Sheets } from './sheets.svelte.ts';

  /** Own entries, kept apart from the shipped ones; a plan that uses one embeds a copy. */
  let { sheets }: { sheets: Sheets } = $props();
  const entry = new OwnForm();
  const may = $derived(session.may('registers.save_own_entry'));
  const forms = $derived(catalogue.value?.own_forms ?? []);
  const form = $derived(forms.find((f) => f.kind === entry.kind) ?? forms[0]);
  const words = (body: object) =>
    Object.keys(body)
      .filter((name) => name !== 'tests')
      .map((name) => `${name.replaceAll('_', ' ')} ${textOf(body, name)}`)
      .join(' · ');

  async function keep(event: Event) {
    event.preventDefault();
    if (form && (await entry.keep(form.kind))) await sheets.load();
  }
  async function drop(id: string) {
    const { error } = await api
      .DELETE('/api/v1/own-entries/{id}', { params: { path: { id } } })
      .catch(() => ({ error: {} }));
    entry.failed = error ? problemText(error) : '';
    await sheets.load();
  }
</script>

<h2 class="!text-xl">Custom entries</h2>
<p class="soft mb-3">
  Separate from the shipped tables. A plan that uses one holds a copy, so that released plans do not
  change.
</p>
{#each sheets.own.value?.items ?? [] as one (one.id)}
  <div class="flex flex-wrap items-baseline gap-x-4 border-b py-2">
    <b>{one.key}</b><span class="soft">{one.kind}</span>
    <span class="min-w-0 flex-1">{words(one.body as object)}</span>
    <span class="soft text-sm"
      >{[one.person, day(one.at), sheets.own.value?.in_store.includes(one.key) && 'in stock']
        .filter(Boolean)
        .join(' · ')}</span
    >
    {#if may}<Word class="text-sm" label="Remove {one.key}" onclick={() => drop(one.id)}
        >Remove</Word
      >{/if}
    {#if one.tested.length}<div class="w-full max-w-md">
        <TestedBand tested={one.tested} />
      </div>{/if}
  </div>
{:else}<p class="soft">
    {may
      ? 'None yet. Enter the data sheet of your compound, or what was measured here.'
      : 'None yet.'}
  </p>{/each}
<Failure text={entry.failed} class="mt-3" />
{#if may && form}
  <form class="mt-5 grid max-w-xl gap-2" onsubmit={keep}>
    <h2>New entry</h2>
    <div class="grid grid-cols-2 gap-2">
      <QuantityField
        label="Kind"
        value={form.kind}
        choices={forms.map((f): [string, string] => [f.kind, f.words])}
        onchange={entry.choose}
      />
      <QuantityField
        label="Short name"
        value={entry.key}
        example="white-paste"
        error={entry.errors.key}
        onchange={(text) => (entry.key = text)}
      />
      {#each form.fields as spec (spec.name)}
        <FormField {spec} part={entry.body} error={entry.errors[spec.name]} />
      {/each}
    </div>
    <Button type="submit" color="alternative" class="justify-self-start">Save</Button>
  </form>
{/if}
