<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import FreshSignOn from '#lib/parts/FreshSignOn.svelte';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /** A signature: what it stands over, in which role, with the password or the PIN again. */
  let { run, role }: { run: Run; role: string } = $props();
  let password = $state('');
  let failed = $state('');
  let busy = $state(false);
  const uid = $props.id();
  async function sign(event: Event) {
    event.preventDefault();
    busy = true;
    failed = '';
    await run.sign(role, password).catch((error: Error) => (failed = error.message));
    password = '';
    busy = false;
  }
</script>

<form class="grid gap-2 rounded border-2 border-ink p-3" onsubmit={sign}>
  <p class="text-lg"><Sentence key="run.you_sign" values={{ role, what: run.state!.signs }} /></p>
  {#if run.unsent.length}<p class="text-caution">
      {sentence('run.sign_later', { count: run.unsent.length })}
    </p>{/if}
  {#if session.fresh}
    <p class="text-lg">
      You have just signed in again as <b>{session.person?.name}</b>: nothing else is needed.
    </p>
  {:else}
    <Label for="{uid}-p" class="text-lg"
      >{session.person?.name}: {session.hasPassword
        ? 'your password again, or your PIN'
        : 'your PIN'}</Label
    >
    <Input
      id="{uid}-p"
      type="password"
      class="min-h-[56px] text-lg"
      bind:value={password}
      maxlength={200}
      autocomplete="current-password"
    />
    {#if session.signOn}<FreshSignOn />{/if}
  {/if}
  <Failure text={failed || session.said} />
  <GloveButton
    type="submit"
    look="main"
    class="min-h-[80px] text-2xl"
    disabled={(!password && !session.fresh) || busy || run.busy || run.unsent.length > 0}
    >{sentence('run.sign_as', { role })}</GloveButton
  >
</form>
