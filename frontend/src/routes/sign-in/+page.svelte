<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import { problemText } from '#lib/api/client.ts';
  import SecretField from '#lib/parts/SecretField.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';
  import DemoPeople from './DemoPeople.svelte';

  let login = $state('');
  let password = $state('');
  let code = $state('');
  /** Whether this person has one-time codes: known once the password was right. */
  let coded = $state(false);
  let error = $state('');
  let busy = $state(false);
  const uid = $props.id();

  const asked = page.url.searchParams.get('to');
  const to =
    asked?.startsWith('/') && !asked.startsWith('//') && asked !== '/sign-in' ? asked : '/shift';

  async function enter(event?: Event) {
    event?.preventDefault();
    error = '';
    busy = true;
    try {
      const problem = await session.signIn(login, password, code);
      if (problem) {
        error = problemText(problem);
        coded = problem.errors?.[0]?.path === 'code';
        code = '';
        return;
      }
      await goto(to);
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

<div class="mx-auto grid max-w-4xl items-start gap-10 px-6 pt-[12vh] md:grid-cols-[1fr_1fr]">
  <section>
    <h1 class="!text-[2rem]">Orthotorq</h1>
    <p class="soft mt-1 mb-6 max-w-[34ch]">
      Plan the tightening of a bolted joint, lead the fitter through it bolt by bolt, keep the
      record.
    </p>
    <form onsubmit={enter} class="grid max-w-sm content-start gap-2">
      <Label for="{uid}-login" class="font-semibold text-ink">Name</Label>
      <Input id="{uid}-login" bind:value={login} autocomplete="username" required maxlength={60} />
      <SecretField
        label="Password"
        bind:value={password}
        error={coded ? '' : error || session.said}
        autocomplete="current-password"
        required
      />
      {#if coded}
        <SecretField
          label="Code of your app"
          bind:value={code}
          {error}
          digits
          seen
          autocomplete="one-time-code"
          required
          autofocus
        />
      {/if}
      <Button type="submit" disabled={busy} class="justify-center">Sign in</Button>
      {#if session.signOn}
        <Button
          color="alternative"
          class="justify-center"
          href="/api/v1/session/sign-on?to={encodeURIComponent(to)}"
          rel="external">{sentence('sign.in', { provider: session.signOn })}</Button
        >
      {/if}
    </form>
  </section>
  {#if session.demo.length}<DemoPeople onenter={enterAs} />{/if}
</div>
<p class="soft mx-auto mt-12 max-w-4xl px-6 text-sm">
  A planning aid: the equipment maker's instructions, the code in force and a qualified person come
  first.
</p>
