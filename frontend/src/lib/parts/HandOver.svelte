<script lang="ts">
  import { untrack } from 'svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';
  import Choice from './Choice/Choice.svelte';
  import Failure from './Failure.svelte';
  import GloveButton from './GloveButton.svelte';
  import SecretField from './SecretField.svelte';

  /** Another person continues on this device, with a PIN; or the same one, where it was locked. */
  interface Props {
    onclose: () => void;
    ondone?: () => void;
    /** Who has to give their PIN again before anything else; the dialog cannot be closed then. */
    locked?: Schemas['Locked'] | null;
  }
  let { onclose, ondone = () => undefined, locked = null }: Props = $props();
  const here = new Asked<Schemas['HereList']>();
  void here.ask(() => api.GET('/api/v1/session/here'));
  let login = $state(untrack(() => locked?.login ?? ''));
  let pin = $state('');
  let failed = $state('');
  let busy = $state(false);
  let open = $state(true);
  const uid = $props.id();
  const people = $derived(
    (here.value?.items ?? []).map((one): [string, string] => [one.login, one.name]),
  );

  async function take(event: Event) {
    event.preventDefault();
    busy = true;
    failed = '';
    await session
      .handOver(login, pin)
      .then(() => {
        onclose();
        ondone();
      })
      .catch((error: Error) => (failed = error.message));
    pin = '';
    busy = false;
  }
</script>

<Modal
  bind:open
  title={locked ? 'Enter your PIN' : 'Who is here now?'}
  size="sm"
  permanent={!!locked}
  {onclose}
>
  {#if locked}
    <p>Nobody has used this device for a while. Everything on it is saved.</p>
  {/if}
  <Failure text={here.failed} />
  {#if here.value && !people.length}
    <p>
      Nobody else has a PIN yet. Each person sets one on the account page; until then sign out, and
      in again.
    </p>
  {:else}
    <form class="grid gap-3" onsubmit={take}>
      <Label for="{uid}-who" class="text-lg">Name</Label>
      <Choice
        id="{uid}-who"
        choices={people}
        value={login}
        onchange={(to) => (login = to)}
        placeholder="choose"
        listClass="min-h-[56px] text-lg"
        required
      />
      <SecretField
        label="PIN"
        bind:value={pin}
        error={failed}
        digits
        autocomplete="off"
        required
        large
        note="{uid}-note"
      />
      <p id="{uid}-note" class="soft">
        {#if !locked}{sentence('sign.out_here', { person: session.person?.name ?? '' })}{/if} From now
        on answers are recorded under the name above. A PIN opens work at joints, not plans or people.
        {#if session.demoPin}{sentence('sign.demo_pin', { pin: session.demoPin })}{/if}
      </p>
      <GloveButton type="submit" look="main" disabled={!login || !pin || busy}
        >{locked ? 'Unlock device' : 'Change user'}</GloveButton
      >
      {#if locked}
        <GloveButton onclick={() => void session.signOut().then(() => location.assign('/sign-in'))}
          >Sign out</GloveButton
        >
      {/if}
    </form>
  {/if}
</Modal>
