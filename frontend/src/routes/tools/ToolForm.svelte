<script lang="ts">
  import { untrack } from 'svelte';
  import Button from 'flowbite-svelte/Button.svelte';
  import Checkbox from 'flowbite-svelte/Checkbox.svelte';
  import { CONFIRMED, problemText, type Problem, type Schemas } from '#lib/api/client.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { FIELDS, sendTool, textsOf } from './toolForm.ts';

  /** A tool as it is registered, or put right. */
  interface Props {
    list: Schemas['ToolList'];
    /** The tool that is put right, none for a new one. */
    detail?: Schemas['ToolDetail'];
    onclose: () => void;
    onkept: (id: string) => void;
  }
  let { list, detail, onclose, onkept }: Props = $props();
  let texts = $state<Record<string, string>>(untrack(() => textsOf(detail)));
  let borrowed = $state(untrack(() => detail?.tool.borrowed ?? false));
  let sort = $state(untrack(() => detail?.tool.sort ?? 'wrench'));
  let errors = $state<Record<string, string>>({});
  let failed = $state('');
  let sending = $state(false);
  /** Whether the server has asked if what was typed is meant: sending it again says so. */
  let asked = $state(false);
  const fields = $derived(FIELDS[sort] ?? []);
  const usual = $derived(list.usual_classes[texts.kind ?? ''] ?? '');

  const same = (all: string[]) => all.map((one): [string, string] => [one, one]);
  const choices = (name: string) =>
    name === 'kind'
      ? same(Object.keys(list.usual_classes))
      : name === 'drive'
        ? [['', 'Not specified'] as [string, string], ...same(list.drives)]
        : undefined;

  async function keep(event: Event) {
    event.preventDefault();
    sending = true;
    const { id, problem } = await sendTool(sort, texts, borrowed, detail, asked ? CONFIRMED : {});
    sending = false;
    asked = (problem as Problem | undefined)?.code === 'confirm';
    errors = Object.fromEntries(
      ((problem as Problem | undefined)?.errors ?? []).map((e) => [
        e.path.replace(/^spec\//, ''),
        e.text,
      ]),
    );
    failed = problem && !Object.keys(errors).length ? problemText(problem) : '';
    if (id) onkept(id);
  }
  const at = (name: string) =>
    errors[name] ??
    (name === 'low'
      ? errors['range/0']
      : name === 'high'
        ? (errors['range/1'] ?? errors.range)
        : undefined);
</script>

<form
  class="sheet mb-6 grid gap-3 p-4"
  onsubmit={keep}
  aria-label={detail ? `Change ${detail.tool.serial}` : 'A new tool'}
>
  <p class="font-bold">{detail ? `Change ${detail.tool.serial}` : 'A new tool'}</p>
  <div class="grid gap-3 sm:grid-cols-3">
    {#if !detail}
      <QuantityField
        label="What it is"
        value={sort}
        choices={list.sorts.map((one): [string, string] => [one.id, one.words])}
        onchange={(to) => ((sort = to), (texts.kind = to === 'wrench' ? 'click wrench' : ''))}
      />
    {/if}
    {#each fields as field (field.name)}
      <QuantityField
        label={field.label}
        value={texts[field.name] ?? ''}
        example={field.name === 'held_to' ? usual : field.example}
        note={field.note}
        choices={choices(field.name)}
        error={at(field.name)}
        onchange={(text) => ((texts[field.name] = text), (asked = false))}
      />
    {/each}
    <Checkbox bind:checked={borrowed} class="self-end">borrowed</Checkbox>
  </div>
  <Failure text={failed} />
  <div class="flex gap-2">
    <Button type="submit" disabled={sending}>{asked ? 'Confirm and save' : 'Save'}</Button>
    <Button color="alternative" onclick={onclose}>Cancel</Button>
  </div>
</form>
