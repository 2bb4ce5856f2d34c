<script lang="ts">
  import '../app.css';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import KeyHelp from '#lib/parts/KeyHelp.svelte';
  import { press } from '#lib/keys.ts';
  import { session } from '#lib/session.svelte.ts';

  let { children } = $props();
  let failed = $state('');
  const running = $derived(/^\/runs\/[^/]+$/.test(page.url.pathname));
  const signing = $derived(page.url.pathname === '/sign-in');

  session.load().catch((error: Error) => (failed = error.message));

  $effect(() => {
    if (session.ready && !session.person && !signing) goto(`/sign-in?to=${encodeURIComponent(page.url.pathname)}`);
  });

  function toggleTheme() {
    const dark = document.documentElement.classList.toggle('dark');
    localStorage.setItem('orthotorq-theme', dark ? 'dark' : 'light');
  }
  const links = [
    ['/equipment', 'Equipment'],
    ['/runs', 'Runs'],
    ['/sums', 'Quick sums'],
    ['/tables', 'Tables'],
  ] as const;
</script>

<svelte:head><title>Orthotorq</title></svelte:head>
<svelte:window
  onkeydown={(event) => session.person && press(event, [{ key: 's', words: 'quick sums', run: () => goto('/sums') }])}
/>

{#if session.person && !running}
  <a href="#main" class="absolute -top-20 left-2 z-50 bg-sheet p-2 focus:top-2">To the content</a>
  <header class="no-print flex h-12 items-center gap-6 border-b bg-sheet px-5">
    <a href="/equipment" class="text-[1.1rem] font-extrabold !text-ink !no-underline">Orthotorq</a>
    <nav class="flex h-full gap-5" aria-label="Main">
      {#each links as [href, words] (href)}
        {@const here = page.url.pathname.startsWith(href)}
        <a
          {href}
          aria-current={here ? 'page' : undefined}
          class="flex h-full items-center border-b-[3px] !no-underline {here
            ? 'border-brine font-semibold !text-ink'
            : 'border-transparent !text-soft'}">{words}</a
        >
      {/each}
    </nav>
    <div class="ml-auto flex items-center gap-4 text-sm">
      <button class="link" onclick={toggleTheme}>night / day</button>
      <span class="soft hidden sm:inline">{session.person.name}, {session.person.roles.join(', ')}</span>
      <button class="link" onclick={() => session.signOut()}>Sign out</button>
    </div>
  </header>
{/if}
<main id="main" class={running ? '' : 'min-h-[calc(100vh-3rem)]'}>
  {#if failed}
    <p class="m-8 text-stop" role="alert">{failed}</p>
  {:else if session.person || signing}
    {@render children()}
  {/if}
</main>
<KeyHelp />
