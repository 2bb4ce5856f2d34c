<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { api, problemText, type Problem, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import FreshSignOn from '#lib/parts/FreshSignOn.svelte';
  import SecretField from '#lib/parts/SecretField.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /** A PIN for shared tablets, and one-time codes. */
  const asked = new Asked<Schemas['Factors']>();
  void asked.ask(() => api.GET('/api/v1/factors'));
  let password = $state('');
  const proven = $derived(!!password || session.fresh);
  let pin = $state('');
  let code = $state('');
  let said = $state('');
  let made = $state<Schemas['CodesOut'] | null>(null);
  let errors = $state<Record<string, string>>({});
  let failed = $state('');

  type Answer = { data?: unknown; error?: unknown };
  async function send(asks: () => Promise<Answer>, words: string) {
    const { data, error } = await asks().catch(() => ({ error: {}, data: undefined }));
    const problem = error as Problem | undefined;
    errors = Object.fromEntries((problem?.errors ?? []).map((e) => [e.path, e.text]));
    failed = problem && !Object.keys(errors).length ? problemText(problem) : '';
    said = problem ? '' : words;
    if (problem) return;
    password = pin = code = '';
    await asked.ask(() => api.GET('/api/v1/factors'));
    return data;
  }
  const setPin = (value: string) =>
    send(
      () => api.PUT('/api/v1/pin', { body: { password, pin: value } }),
      value ? 'The PIN is set.' : 'There is no PIN any more.',
    );
  async function codes(act: 'begin' | 'confirm' | 'end', words: string) {
    const data = await send(
      () => api.POST('/api/v1/codes', { body: { act, password, code } }),
      words,
    );
    if (data) made = act === 'begin' ? (data as Schemas['CodesOut']) : null;
  }
</script>

<section class="mt-6">
  <h2 class="mb-3 border-b border-ink pb-1">PIN and one-time codes</h2>
  <Failure text={asked.failed || failed || session.said} />
  <p class="soft mb-3 max-w-[70ch]">
    With a PIN you sign on a shared tablet and continue there after another person. With one-time
    codes every sign-in also asks for the number that an app on your own phone shows.
  </p>
  <div class="grid max-w-3xl gap-x-10 gap-y-2 md:grid-cols-2">
    <div class="grid content-start gap-2 md:col-span-2 md:max-w-md">
      {#if session.fresh}
        <p>You have just signed in again: changes here need no password now.</p>
      {:else}
        {#if session.hasPassword}<SecretField
            label="Your password, to confirm each change here"
            bind:value={password}
            error={errors.password}
            autocomplete="current-password"
          />{/if}
        {#if session.signOn}<FreshSignOn />{/if}
      {/if}
    </div>
    <form
      class="grid content-start gap-2"
      onsubmit={(event) => {
        event.preventDefault();
        void setPin(pin);
      }}
    >
      <SecretField
        label={asked.value?.pin ? 'New PIN' : 'PIN'}
        bind:value={pin}
        error={errors.pin}
        digits
        autocomplete="off"
      />
      <p class="flex gap-2">
        <Button type="submit" disabled={!proven || !pin}
          >{asked.value?.pin ? 'Change the PIN' : 'Set the PIN'}</Button
        >
        {#if asked.value?.pin}<Button
            color="alternative"
            disabled={!proven}
            onclick={() => void setPin('')}>Remove PIN</Button
          >{/if}
      </p>
    </form>
    <form
      class="grid content-start gap-2"
      onsubmit={(event) => {
        event.preventDefault();
        void codes('confirm', 'One-time codes are on.');
      }}
    >
      <b>{sentence('account.codes', { state: asked.value?.codes ? 'on' : 'off' })}</b>
      {#if made?.secret}
        <p class="soft">
          Scan this with the app on your phone, or type the letters into it; then give the code that
          it shows.
        </p>
        <img src={made.picture} alt="" width="164" height="164" class="bg-white" />
        <code class="text-sm break-all">{made.secret}</code>
        <SecretField
          label="First code"
          bind:value={code}
          error={errors.code}
          digits
          seen
          autocomplete="one-time-code"
        />
        <p><Button type="submit" disabled={!code}>Turn on one-time codes</Button></p>
      {:else if asked.value?.codes}
        <p>
          <Button
            color="alternative"
            disabled={!proven}
            onclick={() => void codes('end', 'One-time codes are off.')}
            >Turn off one-time codes</Button
          >
        </p>
      {:else}
        <p>
          <Button color="alternative" disabled={!proven} onclick={() => void codes('begin', '')}
            >Set up one-time codes</Button
          >
        </p>
      {/if}
    </form>
  </div>
  <p role="status" class="mt-2 min-h-6">{said}</p>
</section>
