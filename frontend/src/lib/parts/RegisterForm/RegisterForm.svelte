<script lang="ts" module>
  /** One thing to say: its name in the request, the label, an example, choices of a fixed set. */
  export interface Field {
    name: string;
    label: string;
    example?: string;
    choices?: [string, string][];
  }
  /** What a joint is registered with; kinds as the server names them. */
  export function jointFields(kinds: { value: string; words: string }[]): Field[] {
    return [
      { name: 'name', label: 'Name', example: 'Casing cover' },
      { name: 'tag', label: 'Short tag', example: 'casing-cover' },
      {
        name: 'kind',
        label: 'Kind of joint',
        choices: kinds.map((k): [string, string] => [k.value, k.words]),
      },
    ];
  }
</script>

<script lang="ts">
  import { untrack } from 'svelte';
  import Button from 'flowbite-svelte/Button.svelte';
  import { CONFIRMED, problemText, type Problem } from '#lib/api/client.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';

  interface Props {
    /** What is being done, as a heading. */
    title: string;
    fields: Field[];
    /** What the fields hold at first. */
    values: Record<string, string>;
    /** The word on the button. */
    action: string;
    /** Sends the texts, with what confirms them; gives the problem back when there is one. */
    send: (texts: Record<string, string>, headers: Record<string, string>) => Promise<unknown>;
    onclose: () => void;
  }
  let { title, fields, values, action, send, onclose }: Props = $props();
  let texts = $state<Record<string, string>>(untrack(() => ({ ...values })));
  let errors = $state<Record<string, string>>({});
  let failed = $state('');
  let sending = $state(false);
  /** Whether the server has asked if what was typed is meant: sending it again says so. */
  let asked = $state(false);
  let form: HTMLFormElement;

  async function keep(event: Event) {
    event.preventDefault();
    sending = true;
    const headers = asked ? CONFIRMED : {};
    const problem = (await send(texts, headers).catch(() => ({}))) as Problem | undefined;
    sending = false;
    asked = problem?.code === 'confirm';
    errors = Object.fromEntries((problem?.errors ?? []).map((e) => [e.path, e.text]));
    failed = problem && !Object.keys(errors).length ? problemText(problem) : '';
  }
  $effect(() => form.querySelector<HTMLElement>('input, select')?.focus());
</script>

<svelte:window onkeydown={(e) => e.key === 'Escape' && onclose()} />
<form class="mb-5 grid gap-3 border-b py-4" bind:this={form} onsubmit={keep} aria-label={title}>
  <p class="font-bold">{title}</p>
  <div class="grid gap-3 {fields.length > 3 ? 'sm:grid-cols-2 lg:grid-cols-4' : 'sm:grid-cols-3'}">
    {#each fields as field (field.name)}
      <QuantityField
        label={field.label}
        value={texts[field.name] ?? ''}
        choices={field.choices}
        example={field.example}
        error={errors[field.name]}
        onchange={(text) => ((texts[field.name] = text), (asked = false))}
      />
    {/each}
  </div>
  <Failure text={failed} />
  <div class="flex gap-2">
    <Button type="submit" disabled={sending}>{asked ? 'Confirm and save' : action}</Button>
    <Button color="alternative" onclick={onclose}>Cancel</Button>
  </div>
</form>
