<script lang="ts">
  import Helper from 'flowbite-svelte/Helper.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import type { HTMLInputAttributes } from 'svelte/elements';

  /** A password, a PIN or a code: its name, and below it what is wrong with it. */
  interface Props {
    label: string;
    value: string;
    error?: string;
    /** Whether it is digits: a PIN or a code. */
    digits?: boolean;
    /** Whether it is read by who types: a code, or a password that is shown. */
    seen?: boolean;
    autocomplete: HTMLInputAttributes['autocomplete'];
    required?: boolean;
    autofocus?: boolean;
    /** Id of more that is said of it. */
    note?: string;
    /** For gloves. */
    large?: boolean;
  }
  let {
    label,
    value = $bindable(),
    error = '',
    digits = false,
    seen = false,
    autocomplete,
    required = false,
    autofocus = false,
    note = '',
    large = false,
  }: Props = $props();
  const uid = $props.id();
</script>

<Label for="{uid}-s" class={large ? 'text-lg' : 'font-semibold text-ink'}>{label}</Label>
<Input
  id="{uid}-s"
  type={seen ? 'text' : 'password'}
  bind:value
  inputmode={digits ? 'numeric' : undefined}
  maxlength={digits ? 12 : 200}
  {autocomplete}
  {required}
  {autofocus}
  class={large ? 'min-h-[56px] text-lg' : ''}
  aria-invalid={!!error}
  aria-describedby="{uid}-e {note}"
/>
<Helper id="{uid}-e" class="text-stop" role="alert">{error}</Helper>
