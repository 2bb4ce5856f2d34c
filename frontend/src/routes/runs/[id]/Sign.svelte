<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import type { Run } from '#lib/run.svelte.ts';
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
  <p class="text-lg">You sign, as {role}, for: <b>{run.state!.signs}</b>.</p>
  {#if run.unsent.length}<p class="text-caution">{run.unsent.length} of your taps are not saved yet: sign when they are.</p>{/if}
  <Label for="{uid}-p" class="text-lg">{session.person?.name}: your password again, or your PIN</Label>
  <Input
    id="{uid}-p"
    type="password"
    class="min-h-[56px] text-lg"
    bind:value={password}
    maxlength={200}
    autocomplete="current-password"
  />
  <Failure text={failed} />
  <GloveButton
    type="submit"
    look="main"
    class="min-h-[80px] text-2xl"
    disabled={!password || busy || run.busy || run.unsent.length > 0}>Sign as {role}</GloveButton
  >
</form>
