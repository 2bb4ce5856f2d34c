<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { api, sentence, type Problem, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import SecretField from '#lib/parts/SecretField.svelte';

  /** A PIN for shared tablets, and one-time codes. */
  const asked = new Asked<Schemas['Factors']>();
  void asked.ask(() => api.GET('/api/v1/factors'));
  let password = $state('');
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
    failed = problem && !Object.keys(errors).length ? sentence(problem) : '';
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
    const data = await send(() => api.POST('/api/v1/codes', { body: { act, password, code } }), words);
    if (data) made = act === 'begin' ? (data as Schemas['CodesOut']) : null;
  }
</script>

<section class="mt-6">
  <h2 class="mb-3 border-b border-ink pb-1">PIN and one-time codes</h2>
  <Failure text={asked.failed || failed} />
  <p class="soft mb-3 max-w-[70ch]">
    With a PIN you sign on a shared tablet and take it over from somebody else. With one-time codes every sign-in also asks for
    the number that an app on your own phone shows.
  </p>
  <div class="grid max-w-3xl gap-x-10 gap-y-2 md:grid-cols-2">
    <div class="grid content-start gap-2 md:col-span-2 md:max-w-md">
      <SecretField
        label="Your password, for each change here"
        bind:value={password}
        error={errors.password}
        autocomplete="current-password"
      />
    </div>
    <form
      class="grid content-start gap-2"
      onsubmit={(event) => {
        event.preventDefault();
        void setPin(pin);
      }}
    >
      <SecretField label={asked.value?.pin ? 'New PIN' : 'PIN'} bind:value={pin} error={errors.pin} digits autocomplete="off" />
      <p class="flex gap-2">
        <Button type="submit" disabled={!password || !pin}>{asked.value?.pin ? 'Change the PIN' : 'Set the PIN'}</Button>
        {#if asked.value?.pin}<Button color="alternative" disabled={!password} onclick={() => void setPin('')}
            >Take it away</Button
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
      <b>One-time codes are {asked.value?.codes ? 'on' : 'off'}</b>
      {#if made?.secret}
        <p class="soft">Scan this with the app on your phone, or type the letters into it; then give the code that it shows.</p>
        <img src={made.picture} alt="" width="164" height="164" class="bg-white" />
        <code class="text-sm break-all">{made.secret}</code>
        <SecretField label="First code" bind:value={code} error={errors.code} digits seen autocomplete="one-time-code" />
        <p><Button type="submit" disabled={!code}>Turn them on</Button></p>
      {:else if asked.value?.codes}
        <p>
          <Button color="alternative" disabled={!password} onclick={() => void codes('end', 'One-time codes are off.')}
            >Turn them off</Button
          >
        </p>
      {:else}
        <p><Button color="alternative" disabled={!password} onclick={() => void codes('begin', '')}>Set them up</Button></p>
      {/if}
    </form>
  </div>
  <p role="status" class="mt-2 min-h-6">{said}</p>
</section>
