<script lang="ts">
  import { page } from '$app/state';
  import Button from 'flowbite-svelte/Button.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import PasswordForm from '#lib/parts/PasswordForm.svelte';

  /** What an invitation opens: a password is set, once. */
  const asked = new Asked<Schemas['InvitationOut']>();
  const path = { token: page.params.token! };
  let done = $state(false);
  void asked.ask(() => api.GET('/api/v1/invitations/{token}', { params: { path } }));

  async function set(password: string): Promise<unknown> {
    const { error } = await api.POST('/api/v1/invitations/{token}', {
      params: { path },
      body: { password },
    });
    if (error) return error;
    done = true;
  }
</script>

<svelte:head><title>Invitation · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-xl px-6 pt-[12vh]">
  <p class="mb-6 text-[1.1rem] font-extrabold">Orthotorq</p>
  <Failure text={asked.failed} />
  {#if asked.value}
    <h1>Welcome, {asked.value.name}</h1>
    {#if done}
      <p class="my-4">The password is set. You sign in as <b>{asked.value.login}</b>.</p>
      <Button href="/sign-in">Sign in</Button>
    {:else}
      <p class="soft mt-1 mb-6">
        You sign in as <b>{asked.value.login}</b>. Choose a password; this link works once.
      </p>
      <PasswordForm field="password" action="Set it" send={set} login={asked.value.login} />
    {/if}
  {/if}
</div>
