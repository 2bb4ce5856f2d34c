<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import Button from 'flowbite-svelte/Button.svelte';
  import { session } from '#lib/session.svelte.ts';

  let login = $state('');
  let password = $state('');
  let error = $state('');
  let busy = $state(false);
  const uid = $props.id();

  async function enter(event?: Event) {
    event?.preventDefault();
    error = '';
    busy = true;
    try {
      await session.signIn(login, password);
      const to = page.url.searchParams.get('to');
      await goto(to?.startsWith('/') && !to.startsWith('//') && to !== '/sign-in' ? to : '/equipment');
    } catch (problem) {
      error = (problem as Error).message;
    } finally {
      busy = false;
    }
  }

  function enterAs(name: string) {
    login = name;
    password = session.demoPassword ?? '';
    void enter();
  }
</script>

<div class="mx-auto grid max-w-4xl gap-10 px-6 pt-[12vh] items-start md:grid-cols-[1fr_1fr]">
  <section>
    <h1 class="!text-[2rem]">Orthotorq</h1>
    <p class="soft mt-1 mb-6 max-w-[34ch]">
      Plan the tightening of a bolted joint, lead the fitter through it bolt by bolt, keep the record.
    </p>
    <form onsubmit={enter} class="grid max-w-sm content-start gap-2">
      <label for="{uid}-login" class="font-semibold">Name</label>
      <input id="{uid}-login" class="field" bind:value={login} autocomplete="username" required maxlength="60" />
      <label for="{uid}-password" class="font-semibold">Password</label>
      <input
        id="{uid}-password"
        class="field"
        type="password"
        bind:value={password}
        autocomplete="current-password"
        required
        maxlength="200"
        aria-invalid={!!error}
        aria-describedby="{uid}-error"
      />
      <p id="{uid}-error" class="min-h-6 text-stop" role="alert">{error}</p>
      <Button type="submit" disabled={busy} class="!bg-brine !text-brine-ink">Sign in</Button>
    </form>
  </section>
  {#if session.demo.length}
    <section class="border-l pl-10">
      <h2>Demo: Vellmark Saltworks</h2>
      <p class="soft mb-4">A made-up salt works. Enter as one of its people; each has the password “{session.demoPassword}”.</p>
      <ul class="divide-y border-y">
        {#each session.demo as person (person.login)}
          <li>
            <button class="flex w-full items-baseline gap-3 py-3 text-left hover:bg-tint" onclick={() => enterAs(person.login)}>
              <span class="w-28 font-semibold">{person.name}</span>
              <span class="soft">{person.roles.join(', ')}</span>
              <span class="ml-auto pr-2 text-brine">{person.login}</span>
            </button>
          </li>
        {/each}
      </ul>
    </section>
  {/if}
</div>
<p class="soft mx-auto mt-12 max-w-4xl px-6 text-sm">
  A planning aid: the equipment maker's instructions, the code in force and a qualified person come first.
</p>
