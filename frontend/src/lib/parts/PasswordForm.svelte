<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { problemText, type Problem } from '#lib/api/client.ts';
  import SecretField from './SecretField.svelte';

  /** A new password, with the old one where there is one. */
  interface Props {
    /** The field of the new one, as the server names it. */
    field: string;
    /** Whether the old one is asked for. */
    old?: boolean;
    action: string;
    /** Sends both; gives the problem back when there is one. */
    send: (password: string, old: string) => Promise<unknown>;
    /** Who signs in, so that a browser keeps the password under the right name. */
    login: string;
  }
  let { field, old = false, action, send, login }: Props = $props();
  let before = $state('');
  let text = $state('');
  let seen = $state(false);
  let errors = $state<Record<string, string>>({});
  let failed = $state('');
  let busy = $state(false);
  const uid = $props.id();

  async function keep(event: Event) {
    event.preventDefault();
    busy = true;
    const problem = (await send(text, before).catch(() => ({}))) as Problem | undefined;
    busy = false;
    errors = Object.fromEntries((problem?.errors ?? []).map((e) => [e.path, e.text]));
    failed = problem && !Object.keys(errors).length ? problemText(problem) : '';
    if (!problem) before = text = '';
  }
</script>

<form onsubmit={keep} class="grid max-w-md content-start gap-2">
  <input type="text" autocomplete="username" value={login} class="hidden" readonly />
  {#if old}
    <SecretField
      label="Current password"
      bind:value={before}
      error={errors.old}
      autocomplete="current-password"
      required
    />
  {/if}
  <SecretField
    label="New password"
    bind:value={text}
    error={errors[field] || failed}
    {seen}
    autocomplete="new-password"
    required
    note="{uid}-new-note"
  />
  <p id="{uid}-new-note" class="soft text-sm">
    Several words in a row are easy to remember and hard to guess. No signs are asked for.
  </p>
  <div class="flex flex-wrap gap-2">
    <Button type="submit" disabled={busy}>{action}</Button>
    <Button color="alternative" aria-pressed={seen} onclick={() => (seen = !seen)}
      >{seen ? 'Hide it' : 'Show it'}</Button
    >
  </div>
</form>
