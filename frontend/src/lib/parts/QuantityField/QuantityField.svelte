<script lang="ts">
  interface Props {
    /** What the field is called. */
    label: string;
    /** The text as typed. */
    value: string;
    /** Called with every change. */
    onchange: (text: string) => void;
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
  }
  let { label, value, onchange, error = '', example = '', list, choices, note = '' }: Props = $props();
  const uid = $props.id();
</script>

<div class="grid content-start gap-[3px]">
  <label for="{uid}-f" class="text-sm leading-tight text-soft">{label}{note ? ` · ${note}` : ''}</label>
  {#if choices}
    <select
      id="{uid}-f"
      class="field"
      {value}
      aria-invalid={!!error}
      aria-describedby={error ? `${uid}-e` : undefined}
      onchange={(e) => onchange(e.currentTarget.value)}
    >
      {#each choices as [key, words] (key)}<option value={key}>{words}</option>{/each}
    </select>
  {:else}
    <input
      id="{uid}-f"
      class="field"
      {value}
      placeholder={example}
      list={list ? `${uid}-l` : undefined}
      aria-invalid={!!error}
      aria-describedby={error ? `${uid}-e` : undefined}
      autocomplete="off"
      spellcheck="false"
      oninput={(e) => onchange(e.currentTarget.value)}
    />
    {#if list}<datalist id="{uid}-l"
        >{#each list as name (name)}<option value={name}></option>{/each}</datalist
      >{/if}
  {/if}
  {#if error}<p id="{uid}-e" class="text-sm leading-tight text-stop">{error}</p>{/if}
</div>
