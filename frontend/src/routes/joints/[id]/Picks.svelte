<script lang="ts">
  import Radio from 'flowbite-svelte/Radio.svelte';

  /** One of a few, large enough for a glove. */
  interface Props {
    legend: string;
    options: { value: string; words: string }[];
    chosen: string;
    onchoose: (value: string) => void;
  }
  let { legend, options, chosen, onchoose }: Props = $props();
  const uid = $props.id();
</script>

<fieldset class="grid gap-2 {options.length > 2 ? 'sm:grid-cols-3' : 'sm:grid-cols-2'}">
  <legend class="mb-1 text-sm text-soft">{legend}</legend>
  {#each options as option (option.value)}
    <Radio
      name="{uid}-pick"
      value={option.value}
      group={chosen}
      onchange={() => onchoose(option.value)}
      classes={{
        label:
          'flex min-h-[56px] items-center gap-3 rounded-[6px] border-[1.5px] border-hairline px-3 text-base font-semibold text-ink has-checked:border-brine has-checked:bg-tint',
      }}>{option.words}</Radio
    >
  {/each}
</fieldset>
