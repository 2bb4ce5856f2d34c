<script lang="ts">
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { clock, day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import PasswordForm from '#lib/parts/PasswordForm.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  import Factors from './Factors.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';

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
<PageHead
  title={session.person?.name ?? ''}
  about="{session.person?.login}, {session.person?.roles.join(', ')}"
/>
<div class="page">
  <Failure text={asked.failed || ended.failed} />
  <h2 class="mb-3 border-b border-ink pb-1">Password</h2>
  <PasswordForm
    field="new"
    old
    action="Change password"
    send={change}
    login={session.person?.login ?? ''}
  />
  <p role="status" class="mt-2 min-h-6">{said}</p>
  <Factors />
  <h2 class="mt-6 border-b border-ink pb-1">Your sessions</h2>
  <ul>
    {#each asked.value?.items ?? [] as one (one.id)}
      <li class="flex items-baseline justify-between gap-x-6 border-b py-2">
        <span>
          {sentence('account.session', {
            since: `${day(one.at)}, ${clock(one.at)}`,
            used: `${day(one.seen_at)}, ${clock(one.seen_at)}`,
          })}
          <span class="soft block text-sm">{one.agent || 'a program'}</span>
        </span>
        {#if one.this}<b>here</b>{:else}<Word onclick={() => void end(one.id)}>End session</Word
          >{/if}
      </li>
    {/each}
  </ul>
</div>
