<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import { day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { People } from './people.svelte.ts';
  import PersonForm from './PersonForm.svelte';
  import Watch from './Watch.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';

  /** Who works here, and what is watched. */
  const people = new People();
  void people.load();
  const items = $derived(people.list.value?.items ?? []);
  const roles = $derived(people.list.value?.roles ?? []);
  const uid = $props.id();
</script>

<svelte:head><title>People · Orthotorq</title></svelte:head>
<PageHead title="People" about="Who signs in here, and in which role">
  {#snippet main()}
    <Button disabled={!roles.length} onclick={() => (people.open = 'new')}>Invite person</Button>
  {/snippet}
</PageHead>
<div class="page">
  <Failure text={people.failed} />
  {#if people.made}
    <div class="mb-5 grid gap-2 border-l-4 border-brine bg-sheet p-4" role="status">
      <p>
        <Sentence
          key="people.link"
          values={{ name: people.made.name, day: day(people.made.until) }}
        />
      </p>
      <Label for="{uid}-link" class="sr-only">The link</Label>
      <Input
        id="{uid}-link"
        readonly
        value={people.made.link}
        onfocus={(e) => (e.currentTarget as HTMLInputElement).select()}
      />
      <div class="flex gap-2">
        <Button onclick={() => void navigator.clipboard.writeText(people.made!.link)}
          >Copy link</Button
        >
        <Button color="alternative" onclick={() => (people.made = null)}>Close</Button>
      </div>
    </div>
  {/if}
  {#if people.open === 'new'}
    <PersonForm {roles} send={people.invite} onclose={() => (people.open = '')} />
  {/if}
  <ul>
    {#each items as person (person.id)}
      <li class="border-b py-3">
        <div class="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
          <span class={person.active ? '' : 'opacity-70'}>
            <b>{person.name}</b> <span class="soft">{person.login}</span> · {person.roles.join(
              ', ',
            )}
            {#if !person.active}· <b>deactivated</b>{/if}
          </span>
          <span class="flex flex-wrap items-baseline gap-4 text-sm">
            <span class="soft">
              {#if person.invited}{sentence('people.invited', { day: day(person.invited) })}
              {:else if person.last_seen}{sentence('people.seen', {
                  day: day(person.last_seen),
                  count: person.sessions,
                })}
              {:else}never here{/if}
            </span>
            <Word label="Change {person.name}" onclick={() => (people.open = person.id)}
              >Change</Word
            >
            <Word
              label={sentence('people.send_link', { name: person.name })}
              title="The current password ends at once"
              disabled={!person.active}
              onclick={() => (people.open = `link ${person.id}`)}>Send new link</Word
            >
          </span>
        </div>
        {#if people.open === `link ${person.id}`}
          <div
            class="grid gap-3 py-4"
            role="group"
            aria-label={sentence('people.new_link', { name: person.name })}
          >
            <p>
              {sentence('people.new_link_words', { name: person.name })}
            </p>
            <div class="flex gap-2">
              <Button onclick={() => void people.link(person)}>Create new link</Button>
              <Button color="alternative" onclick={() => (people.open = '')}>Cancel</Button>
            </div>
          </div>
        {/if}
        {#if people.open === person.id}
          <PersonForm
            {person}
            {roles}
            send={(texts) => people.change(person.id, texts)}
            onclose={() => (people.open = '')}
          />
        {/if}
      </li>
    {/each}
  </ul>
  <Watch />
</div>
