<script lang="ts">
  import { untrack } from 'svelte';
  import Button from 'flowbite-svelte/Button.svelte';
  import Checkbox from 'flowbite-svelte/Checkbox.svelte';
  import Helper from 'flowbite-svelte/Helper.svelte';
  import { problemText, type Problem, type Schemas } from '#lib/api/client.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';

  /** Somebody to invite, or somebody to change. */
  interface Props {
    person?: Schemas['PersonLine'];
    roles: string[];
    send: (texts: {
      login: string;
      name: string;
      roles: string[];
      active: boolean;
    }) => Promise<unknown>;
    onclose: () => void;
  }
  let { person, roles, send, onclose }: Props = $props();
  let login = $state('');
  let name = $state(untrack(() => person?.name ?? ''));
  let given = $state<string[]>(untrack(() => [...(person?.roles ?? [])]));
  let active = $state(untrack(() => person?.active ?? true));
  let errors = $state<Record<string, string>>({});
  let failed = $state('');
  let sending = $state(false);

  async function keep(event: Event) {
    event.preventDefault();
    sending = true;
    const problem = (await send({ login, name, roles: given, active }).catch(() => ({}))) as
      Problem | undefined;
    sending = false;
    errors = Object.fromEntries((problem?.errors ?? []).map((e) => [e.path, e.text]));
    failed = problem && !Object.keys(errors).length ? problemText(problem) : '';
  }
  const turn = (role: string, on: boolean) =>
    (given = on ? [...given, role] : given.filter((one) => one !== role));
</script>

<form
  class="grid gap-3 py-4 {person ? '' : 'border-b'}"
  onsubmit={keep}
  aria-label={person ? `Change ${person.name}` : 'Invite person'}
>
  <p class="font-bold">{person ? `Change ${person.name}` : 'Invite person'}</p>
  <div class="grid gap-3 sm:grid-cols-2">
    {#if !person}
      <QuantityField
        label="Signs in as"
        value={login}
        example="n.arden"
        error={errors.login}
        onchange={(text) => (login = text)}
      />
    {/if}
    <QuantityField
      label="Name"
      value={name}
      example="Nell Arden"
      error={errors.name}
      onchange={(text) => (name = text)}
    />
  </div>
  <fieldset class="flex flex-wrap gap-x-6 gap-y-2">
    <legend class="mb-1 text-sm">Roles</legend>
    {#each roles as role (role)}
      <Checkbox
        checked={given.includes(role)}
        onchange={(e) => turn(role, (e.currentTarget as HTMLInputElement).checked)}
        class="min-h-8">{role}</Checkbox
      >
    {/each}
    {#if errors.roles}<Helper class="w-full text-stop" role="alert">{errors.roles}</Helper>{/if}
  </fieldset>
  {#if person}
    <Checkbox
      checked={active}
      onchange={(e) => (active = (e.currentTarget as HTMLInputElement).checked)}
      class="min-h-8"
      >Active. Who is deactivated is signed out at once and cannot sign in; every record keeps the
      name.</Checkbox
    >
  {/if}
  <Failure text={failed} />
  <div class="flex gap-2">
    <Button type="submit" disabled={sending}>{person ? 'Save' : 'Create link'}</Button>
    <Button color="alternative" onclick={onclose}>Cancel</Button>
  </div>
</form>
