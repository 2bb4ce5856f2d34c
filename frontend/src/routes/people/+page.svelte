<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import { day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { People } from './people.svelte.ts';
  import PersonForm from './PersonForm.svelte';
  import Watch from './Watch.svelte';

  /** Who works here, and what is watched. */
  const people = new People();
  void people.load();
  const items = $derived(people.list.value?.items ?? []);
  const roles = $derived(people.list.value?.roles ?? []);
  const uid = $props.id();
</script>

<svelte:head><title>People · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-5xl px-6 py-6">
  <div class="mb-5 flex flex-wrap items-end justify-between gap-4">
    <div>
      <h1>People</h1>
      <p class="soft">Who signs in here, and as what</p>
    </div>
    <Button color="alternative" disabled={!roles.length} onclick={() => (people.open = 'new')}>Invite somebody</Button>
  </div>
  <Failure text={people.failed} />
  {#if people.made}
    <div class="mb-5 grid gap-2 border-l-4 border-brine bg-sheet p-4" role="status">
      <p>
        <b>Give this link to {people.made.name}</b>, by a way of your own. It lets set a password once, until {day(
          people.made.until,
        )}, and is shown nowhere else.
      </p>
      <Label for="{uid}-link" class="sr-only">The link</Label>
      <Input id="{uid}-link" readonly value={people.made.link} onfocus={(e) => (e.currentTarget as HTMLInputElement).select()} />
      <div class="flex gap-2">
        <Button onclick={() => void navigator.clipboard.writeText(people.made!.link)}>Copy it</Button>
        <Button color="alternative" onclick={() => (people.made = null)}>I have it</Button>
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
            <b>{person.name}</b> <span class="soft">{person.login}</span> · {person.roles.join(', ')}
            {#if !person.active}· <b>out of action</b>{/if}
          </span>
          <span class="flex flex-wrap items-baseline gap-4 text-sm">
            <span class="soft">
              {#if person.invited}link waits until {day(person.invited)}
              {:else if person.last_seen}last here {day(person.last_seen)}, {person.sessions}
                {person.sessions === 1 ? 'session' : 'sessions'} open
              {:else}never here{/if}
            </span>
            <Word label="Change {person.name}" onclick={() => (people.open = person.id)}>change</Word>
            <Word
              label="New link for {person.name}"
              title="The password of now ends at once"
              disabled={!person.active}
              onclick={() => (people.open = `link ${person.id}`)}>new link</Word
            >
          </span>
        </div>
        {#if people.open === `link ${person.id}`}
          <div class="grid gap-3 py-4" role="group" aria-label="New link for {person.name}">
            <p>
              The password that {person.name} has now ends at once, and so does every session. A link to set a new one is shown to you.
            </p>
            <div class="flex gap-2">
              <Button onclick={() => void people.link(person)}>End it and make a link</Button>
              <Button color="alternative" onclick={() => (people.open = '')}>Leave it</Button>
            </div>
          </div>
        {/if}
        {#if people.open === person.id}
          <PersonForm {person} {roles} send={(texts) => people.change(person.id, texts)} onclose={() => (people.open = '')} />
        {/if}
      </li>
    {/each}
  </ul>
  <Watch />
</div>
