<script lang="ts">
  import Label from 'flowbite-svelte/Label.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import Select from 'flowbite-svelte/Select.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { session } from '#lib/session.svelte.ts';
  import Failure from './Failure.svelte';
  import GloveButton from './GloveButton.svelte';
  import SecretField from './SecretField.svelte';

  /** Somebody else takes over this device, with a PIN, and goes on where it stands. */
  let { onclose, ondone = () => undefined }: { onclose: () => void; ondone?: () => void } = $props();
  const here = new Asked<Schemas['HereList']>();
  void here.ask(() => api.GET('/api/v1/session/here'));
  let login = $state('');
  let pin = $state('');
  let failed = $state('');
  let busy = $state(false);
  let open = $state(true);
  const uid = $props.id();
  const people = $derived((here.value?.items ?? []).map((one) => ({ value: one.login, name: one.name })));

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

<Modal bind:open title="Who is here now?" size="sm" {onclose}>
  <Failure text={here.failed} />
  {#if here.value && !people.length}
    <p>Nobody else has a PIN yet. It is set once, on the screen of one’s own account; until then sign out, and in again.</p>
  {:else}
    <form class="grid gap-3" onsubmit={take}>
      <Label for="{uid}-who" class="text-lg">Name</Label>
      <Select
        id="{uid}-who"
        items={people}
        bind:value={login}
        placeholder="choose"
        classes={{ select: 'min-h-[56px] text-lg' }}
        required
      />
      <SecretField label="PIN" bind:value={pin} error={failed} digits autocomplete="off" required large note="{uid}-note" />
      <p id="{uid}-note" class="soft">
        {session.person?.name} is signed out here; what is tapped from now on stands under the new name. A PIN opens work at joints,
        no plans and no people.
        {#if session.demoPin}In the demo everybody’s PIN is {session.demoPin}.{/if}
      </p>
      <GloveButton type="submit" look="main" disabled={!login || !pin || busy}>Take over</GloveButton>
    </form>
  {/if}
</Modal>
