<script lang="ts">
  import Helper from 'flowbite-svelte/Helper.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Choice from '#lib/parts/Choice/Choice.svelte';

  interface Props {
    /** What the field is called. */
    label: string;
    /** The text as typed. */
    value: string;
    /** Called with every change; an act that changes more gives its promise. */
    onchange: (text: string) => unknown;
    /** The sentence that stands at the field when it is wrong. */
    error?: string;
    /** What would be typed here. */
    example?: string;
    /** Names offered while typing. */
    list?: string[];
    /** Choices of a fixed set: [value, words]. */
    choices?: [string, string][];
    /** Words behind the label. */
    note?: string;
    /** Label for those who do not see where the field stands; the visible one is left out. */
    hidden?: boolean;
    /** What is seen instead of the label, where its place says the rest. */
    shown?: string;
    /** Large enough for a glove. */
    large?: boolean;
  }
  let {
    label,
    value,
    onchange,
    error = '',
    example = '',
    list,
    choices,
    note = '',
    hidden = false,
    shown,
    large = false,
  }: Props = $props();
  const uid = $props.id();
  const id = `${uid}-f`;
  const wrong = $derived({
    'aria-invalid': !!error,
    'aria-describedby': error ? `${uid}-e` : undefined,
  });
  const size = $derived(large ? 'min-h-[56px] text-lg' : '');
</script>

<div class="grid content-start gap-[3px]">
  <Label for={id} class={hidden || shown ? 'sr-only' : ''}>{label}{note ? ` · ${note}` : ''}</Label>
  {#if shown}<span class="text-sm leading-tight text-soft" aria-hidden="true">{shown}</span>{/if}
  {#if choices}
    <Choice {id} {value} {choices} {onchange} listClass={size} {...wrong} />
  {:else}
    <Input
      {id}
      {value}
      placeholder={example}
      list={list ? `${uid}-l` : undefined}
      autocomplete="off"
      spellcheck="false"
      class={size}
      {...wrong}
      oninput={(e) => onchange((e.currentTarget as HTMLInputElement).value)}
    />
    {#if list}<datalist id="{uid}-l"
        >{#each list as name (name)}<option value={name}></option>{/each}</datalist
      >{/if}
  {/if}
  {#if error}<Helper id="{uid}-e" class="text-stop">{error}</Helper>{/if}
</div>
