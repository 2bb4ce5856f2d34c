<script lang="ts">
  import '../app.css';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import ThemeProvider from 'flowbite-svelte/ThemeProvider.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import KeyHelp from '#lib/parts/KeyHelp.svelte';
  import TopBar from '#lib/parts/TopBar.svelte';
  import { keepFocus } from '#lib/focus.ts';
  import { press } from '#lib/keys.ts';
  import { sendKept } from '#lib/run.svelte.ts';
  import { session } from '#lib/session.svelte.ts';
  import { theme } from '#lib/theme.ts';

  let { children } = $props();
  let failed = $state('');
  let finding = $state(false);
  /** What was typed before the search field was there to take it. */
  let early = $state('');
  const running = $derived(/^\/runs\/[0-9a-f-]{36}$/.test(page.url.pathname));
  /** Screens for who is not signed in. */
  const signing = $derived(
    page.url.pathname === '/sign-in' || page.url.pathname.startsWith('/invitation/'),
  );

  function find() {
    early = '';
    finding = !running;
  }
  function onkeydown(event: KeyboardEvent) {
    if (!session.person) return;
    if (finding && !(event.target as Element).closest('dialog')) {
      if (event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey) {
        event.preventDefault();
        early += event.key;
      }
      return;
    }
    press(event, [
      { key: 's', words: 'quick sums', run: () => goto('/sums') },
      { key: 'f', words: 'search everywhere', run: find },
    ]);
  }

  session.load().catch((error: Error) => (failed = error.message));

  $effect(() => {
    if (session.person && !session.unreached && !running) void sendKept(session.person.id);
  });
  $effect(() => {
    if (session.ready && !session.person && !session.locked && !signing)
      goto(`/sign-in?to=${encodeURIComponent(page.url.pathname)}`);
  });
</script>

<svelte:head><title>Orthotorq</title></svelte:head>
<svelte:window {onkeydown} />

<ThemeProvider {theme}>
  {#if session.person && !running}
    <a href="#main" class="absolute -top-20 left-2 z-50 bg-sheet p-2 focus:top-2">To the content</a>
    <TopBar person={session.person} here={page.url.pathname} onfind={find} />
  {/if}
  <main
    id="main"
    {@attach (main) => (running ? undefined : keepFocus(main))}
    class={running ? '' : 'min-h-[calc(100vh-3rem)]'}
  >
    {#if failed}
      <Failure text={failed} class="m-8" />
    {:else if session.person || signing}
      {@render children()}
    {/if}
  </main>
  {#if session.locked}
    {@const locked = session.locked}
    {#await import('#lib/parts/HandOver.svelte') then { default: HandOver }}
      {#key locked.login}
        <HandOver {locked} onclose={() => undefined} ondone={() => location.reload()} />
      {/key}
    {/await}
  {/if}
  {#if finding}
    {#await import('#lib/parts/Search/Search.svelte') then { default: Search }}
      <Search bind:early onclose={() => (finding = false)} />
    {/await}
  {/if}
  <KeyHelp />
</ThemeProvider>
