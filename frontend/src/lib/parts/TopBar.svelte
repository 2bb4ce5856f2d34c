<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte';
  import Navbar from 'flowbite-svelte/Navbar.svelte';
  import NavBrand from 'flowbite-svelte/NavBrand.svelte';
  import NavHamburger from 'flowbite-svelte/NavHamburger.svelte';
  import NavLi from 'flowbite-svelte/NavLi.svelte';
  import NavUl from 'flowbite-svelte/NavUl.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { session } from '#lib/session.svelte.ts';
  import { waitingOf } from '#lib/offline/outbox.ts';
  import Failure from './Failure.svelte';
  import HandOver from './HandOver.svelte';
  import GloveButton from './GloveButton.svelte';
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
    <NavBrand href="/shift" class="mr-6 text-[1.1rem] font-extrabold !text-ink !no-underline">Orthotorq</NavBrand>
    <NavUl
      class="z-30 mr-auto bg-sheet max-lg:absolute max-lg:top-12 max-lg:left-0 lg:order-none"
      classes={{
        ul: 'm-0 gap-4 border-0 lg:gap-5 bg-transparent p-0 max-lg:rounded-none max-lg:border-b max-lg:p-3 lg:h-12 lg:space-x-0',
      }}
    >
      {#each LINKS as [href, words] (href)}
        <NavLi
          {href}
          aria-current={on(href) ? 'page' : undefined}
          class="flex h-full items-center rounded-none border-b-[3px] p-0 !no-underline max-lg:min-h-11 {on(href)
            ? 'border-brine font-semibold !text-ink'
            : 'border-transparent !text-soft'}">{words}</NavLi
        >
      {/each}
    </NavUl>
    <div class="flex items-center gap-4 text-sm whitespace-nowrap max-sm:gap-3">
      <Word label="Search everywhere" title="f" onclick={onfind}>search</Word>
      <Word onclick={toggleTheme} class="max-sm:hidden">night / day</Word>
      <Word href="/account" title="Your account: password and sessions" class="font-normal">
        <span class="max-lg:hidden">{person.name}, {person.roles.join(', ')}</span><span class="lg:hidden">account</span>
      </Word>
      <Word onclick={() => (handing = true)} title="Somebody else takes over this device with a PIN">hand over</Word>
      <Word onclick={leave}>Sign out</Word>
      <NavHamburger class="m-0" />
    </div>
  </Navbar>
  <Failure text={failed} />
</header>
{#if handing}<HandOver onclose={() => (handing = false)} />{/if}
{#if asking}
  <Modal bind:open={asking} title="{unsent} of your taps are not sent yet" size="sm">
    <p>
      They stay on this device under your name, and are sent when you sign in here again. Nobody else sends them. Until then the
      record lacks them.
    </p>
    <div class="grid gap-2 sm:grid-cols-2">
      <GloveButton onclick={() => (asking = false)}>Stay signed in</GloveButton>
      <GloveButton look="quiet" onclick={out}>Sign out, keep them here</GloveButton>
    </div>
  </Modal>
{/if}
