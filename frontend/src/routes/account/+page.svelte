<script lang="ts">
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { clock, day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import PasswordForm from '#lib/parts/PasswordForm.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { session } from '#lib/session.svelte.ts';

  import Factors from './Factors.svelte';

  /** One's own password and sessions. */
  const asked = new Asked<Schemas['SessionList']>();
  const ended = new Asked<unknown>();
  const load = () => asked.ask(() => api.GET('/api/v1/sessions'));
  let said = $state('');
  void load();

  async function change(fresh: string, old: string): Promise<unknown> {
    said = '';
    const { error } = await api.PUT('/api/v1/password', { body: { old, new: fresh } });
    if (error) return error;
    said = 'The password is changed. Your other sessions are ended.';
    await load();
  }
  async function end(id: string) {
    await ended.ask(() => api.DELETE('/api/v1/sessions/{id}', { params: { path: { id } } }));
    await load();
  }
</script>

<svelte:head><title>Your account · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-3xl px-6 py-6">
  <h1>{session.person?.name}</h1>
  <p class="soft mb-6">{session.person?.login}, {session.person?.roles.join(', ')}</p>
  <Failure text={asked.failed || ended.failed} />
  <h2 class="mb-3 border-b border-ink pb-1">Password</h2>
  <PasswordForm field="new" old action="Change it" send={change} login={session.person?.login ?? ''} />
  <p role="status" class="mt-2 min-h-6">{said}</p>
  <Factors />
  <h2 class="mt-6 border-b border-ink pb-1">Where you are signed in</h2>
  <ul>
    {#each asked.value?.items ?? [] as one (one.id)}
      <li class="flex items-baseline justify-between gap-x-6 border-b py-2">
        <span>
          since {day(one.at)}, {clock(one.at)} · last used {day(one.seen_at)}, {clock(one.seen_at)}
          <span class="soft block text-sm">{one.agent || 'a program'}</span>
        </span>
        {#if one.this}<b>here</b>{:else}<Word onclick={() => void end(one.id)}>end it</Word>{/if}
      </li>
    {/each}
  </ul>
</div>
