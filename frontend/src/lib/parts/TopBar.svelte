<script lang="ts">
  import Navbar from 'flowbite-svelte/Navbar.svelte';
  import NavBrand from 'flowbite-svelte/NavBrand.svelte';
  import NavHamburger from 'flowbite-svelte/NavHamburger.svelte';
  import NavLi from 'flowbite-svelte/NavLi.svelte';
  import NavUl from 'flowbite-svelte/NavUl.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { session } from '#lib/session.svelte.ts';
  import { helpFor } from '#lib/helpPages.ts';
  import { waitingOf } from '#lib/offline/outbox.ts';
  import Failure from './Failure.svelte';
  import Word from './Word.svelte';

  /** Where to go, who is here, night or day. */
  interface Props {
    person: Schemas['PersonOut'];
    /** The address of the screen. */
    here: string;
    onfind: () => void;
  }
  let { person, here, onfind }: Props = $props();
  let failed = $state('');
  const LINKS = $derived([
    ['/shift', 'Shift'],
    ['/equipment', 'Equipment'],
    ['/runs', 'Runs'],
    ['/tools', 'Tools'],
    ['/sums', 'Quick sums'],
    ['/tables', 'Tables'],
    ...(session.may('accounts.list_people') ? [['/people', 'People'] as const] : []),
  ] as const);
  const on = (href: string) => here.startsWith(href);
  function toggleTheme() {
    const dark = document.documentElement.classList.toggle('dark');
    localStorage.setItem('orthotorq-theme', dark ? 'dark' : 'light');
  }
  /** Taps of this person that are not sent yet. */
  let unsent = $state(0);
  let asking = $state(false);
  let handing = $state(false);
  async function leave() {
    unsent = Object.values(await waitingOf(person.id)).reduce((sum, n) => sum + n, 0);
    if (unsent) asking = true;
    else await out();
  }
  async function out() {
    asking = false;
    await session.signOut().catch((error: Error) => (failed = error.message));
  }
</script>

<header class="no-print">
  <Navbar fluid breakpoint="lg" navContainerClass="h-12 flex-nowrap p-0 md:p-0 max-w-none">
    <NavBrand
      href="/shift"
      class="mr-6 max-sm:mr-2 text-[1.1rem] font-extrabold !text-ink !no-underline"
      >Orthotorq</NavBrand
    >
    <NavUl
      class="z-30 mr-auto bg-sheet max-lg:absolute max-lg:top-12 max-lg:left-0 lg:order-none"
      classes={{
        ul: 'm-0 gap-4 border-0 lg:gap-5 bg-transparent p-0 max-lg:rounded-none max-lg:border-b max-lg:p-3 lg:h-12 lg:items-stretch lg:space-x-0',
      }}
    >
      {#each LINKS as [href, words] (href)}
        <NavLi
          {href}
          aria-current={on(href) ? 'page' : undefined}
          class="flex h-full items-center rounded-none border-b-[3px] p-0 !no-underline max-lg:min-h-11 {on(
            href,
          )
            ? 'border-brine font-semibold !text-ink'
            : 'border-transparent !text-soft'}">{words}</NavLi
        >
      {/each}
      <li class="flex min-h-11 items-center sm:hidden"><Word href={helpFor(here)}>Help</Word></li>
      <li class="flex min-h-11 items-center sm:hidden">
        <Word href="/account">Your account</Word>
      </li>
      <li class="flex min-h-11 items-center sm:hidden">
        <Word onclick={toggleTheme}>Night / day</Word>
      </li>
    </NavUl>
    <div class="flex items-center gap-4 text-sm whitespace-nowrap max-sm:gap-2">
      <Word label="Search everywhere" title="f" onclick={onfind}>Search</Word>
      <Word href={helpFor(here)} class="max-sm:hidden">Help</Word>
      <Word onclick={toggleTheme} class="max-sm:hidden">Night / day</Word>
      <Word
        href="/account"
        title="Your account: password and sessions"
        class="font-normal max-sm:hidden"
      >
        <span class="max-lg:hidden">{person.name}, {person.roles.join(', ')}</span><span
          class="lg:hidden">account</span
        >
      </Word>
      <Word
        onclick={() => (handing = true)}
        title="Another person continues on this device with a PIN">Change user</Word
      >
      <Word onclick={leave}>Sign out</Word>
      <NavHamburger class="m-0 max-sm:p-1.5" />
    </div>
  </Navbar>
  <Failure text={failed} />
</header>
{#if handing}
  {#await import('./HandOver.svelte') then { default: HandOver }}<HandOver
      onclose={() => (handing = false)}
    />{/await}
{/if}
{#if asking}
  {#await import('./Unsent.svelte') then { default: Unsent }}<Unsent
      bind:open={asking}
      count={unsent}
      onout={out}
    />{/await}
{/if}
