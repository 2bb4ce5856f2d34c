<script lang="ts" module>
  import { KINDS } from '#lib/kinds.ts';

  /** One thing to say: its name in the request, the label, an example, choices of a fixed set. */
  export interface Field {
    name: string;
    label: string;
    example?: string;
    choices?: [string, string][];
  }
  /** What a joint is registered with. */
  export const JOINT_FIELDS: Field[] = [
    { name: 'name', label: 'Name', example: 'Casing cover' },
    { name: 'tag', label: 'Short tag', example: 'casing-cover' },
    { name: 'kind', label: 'Kind of joint', choices: Object.entries(KINDS) },
  ];
</script>

<script lang="ts">
  import { untrack } from 'svelte';
  import { sentence, type Problem } from '#lib/api/client.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';

  interface Props {
    /** What is being done, as a heading. */
    title: string;
    fields: Field[];
    /** What the fields hold at first. */
    values: Record<string, string>;
    /** The word on the button. */
    action: string;
    /** Sends the texts; gives the problem back when there is one. */
    send: (texts: Record<string, string>) => Promise<unknown>;
    onclose: () => void;
  }
  let { title, fields, values, action, send, onclose }: Props = $props();
  let texts = $state<Record<string, string>>(untrack(() => ({ ...values })));
  let errors = $state<Record<string, string>>({});
  let failed = $state('');
  let sending = $state(false);
  let form: HTMLFormElement;

  async function keep(event: Event) {
    event.preventDefault();
    sending = true;
    const problem = (await send(texts).catch(() => ({}))) as Problem | undefined;
    sending = false;
    errors = Object.fromEntries((problem?.errors ?? []).map((e) => [e.path, e.text]));
    failed = problem && !Object.keys(errors).length ? sentence(problem) : '';
  }
  $effect(() => form.querySelector<HTMLElement>('input, select')?.focus());
</script>

<svelte:window onkeydown={(e) => e.key === 'Escape' && onclose()} />
<form class="mb-5 grid gap-3 border-b py-4" bind:this={form} onsubmit={keep} aria-label={title}>
  <p class="font-bold">{title}</p>
  <div class="grid gap-3 sm:grid-cols-3">
    {#each fields as field (field.name)}
      <QuantityField
        label={field.label}
        value={texts[field.name] ?? ''}
        choices={field.choices}
        example={field.example}
        error={errors[field.name]}
        onchange={(text) => (texts[field.name] = text)}
      />
    {/each}
  </div>
  {#if failed}<p class="text-stop" role="alert">{failed}</p>{/if}
  <div class="flex gap-2">
    <button class="act main" disabled={sending}>{action}</button>
    <button class="act" type="button" onclick={onclose}>Leave it</button>
  </div>
</form>
