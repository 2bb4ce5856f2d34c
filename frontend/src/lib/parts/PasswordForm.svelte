<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Helper from 'flowbite-svelte/Helper.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import { sentence, type Problem } from '#lib/api/client.ts';

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
    failed = problem && !Object.keys(errors).length ? sentence(problem) : '';
    if (!problem) before = text = '';
  }
</script>

<form onsubmit={keep} class="grid max-w-md content-start gap-2">
  <input type="text" autocomplete="username" value={login} class="hidden" readonly />
  {#if old}
    <Label for="{uid}-old" class="font-semibold text-ink">Your password now</Label>
    <Input
      id="{uid}-old"
      type="password"
      bind:value={before}
      autocomplete="current-password"
      required
      aria-invalid={!!errors.old}
      aria-describedby="{uid}-old-error"
    />
    <Helper id="{uid}-old-error" class="text-stop" role="alert">{errors.old ?? ''}</Helper>
  {/if}
  <Label for="{uid}-new" class="font-semibold text-ink">New password</Label>
  <Input
    id="{uid}-new"
    type={seen ? 'text' : 'password'}
    bind:value={text}
    autocomplete="new-password"
    required
    aria-invalid={!!errors[field]}
    aria-describedby="{uid}-new-error {uid}-new-note"
  />
  <Helper id="{uid}-new-error" class="text-stop" role="alert">{errors[field] || failed}</Helper>
  <p id="{uid}-new-note" class="soft text-sm">
    Several words in a row are easy to remember and hard to guess. No signs are asked for.
  </p>
  <div class="flex flex-wrap gap-2">
    <Button type="submit" disabled={busy}>{action}</Button>
    <Button color="alternative" aria-pressed={seen} onclick={() => (seen = !seen)}>{seen ? 'Hide it' : 'Show it'}</Button>
  </div>
</form>
