<script lang="ts">
  import Helper from 'flowbite-svelte/Helper.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Textarea from 'flowbite-svelte/Textarea.svelte';
  import { valueOf, write } from '../../plan';
  import QuantityField from '../QuantityField/QuantityField.svelte';
  import Word from '../Word.svelte';

  /**
   * Series of tests of a compound: on which thread, when, on which sheet; one line a tightening, as
   * typed or pasted.
   */
  interface Props {
    part: object;
    name: string;
    error?: string;
  }
  interface Series {
    id: string;
    thread: string;
    readings: string[];
    bearing_diameter?: string;
    date?: string;
    sheet?: string;
  }
  let { part, name, error = '' }: Props = $props();
  const uid = $props.id();
  const series = $derived((valueOf(part, name) ?? []) as Series[]);
  const FIELDS: [keyof Series & string, string, string][] = [
    ['thread', 'Tested on', 'M20'],
    ['date', 'Date', 'Not specified'],
    ['sheet', 'Sheet', 'number of the sheet'],
    ['bearing_diameter', 'Effective Ø of the face', 'of a standard hexagon'],
  ];
  const HINT = '300 N·m, 98 kN\n300 N·m, 96 kN, 155 N·m\n0.16';
  const lines = (text: string) => text.split('\n').filter((line) => line.trim());
  function change(at: number, field: string, value: unknown) {
    const one = { ...series[at]! };
    write(one, field, value);
    write(part, name, series.with(at, one));
  }
  function add() {
    const number = Math.max(0, ...series.map((one) => Number(one.id.slice(1)) || 0)) + 1;
    write(part, name, [
      ...series,
      { id: `s${number}`, thread: series.at(-1)?.thread ?? '', readings: [] },
    ]);
  }
</script>

<div class="col-span-full grid gap-2">
  {#each series as one, i (one.id)}
    <div class="grid grid-cols-2 gap-2 border-l-2 border-hairline pl-3">
      {#each FIELDS as [field, label, example] (field)}
        <QuantityField
          {label}
          {example}
          value={String(one[field] ?? '')}
          onchange={(text) => change(i, field, text.trim())}
        />
      {/each}
      <div class="col-span-full grid gap-[3px]">
        <Label for="{uid}-{i}"
          >Torque and clamp load of each test, one line each; or its nut factor</Label
        >
        <Textarea
          id="{uid}-{i}"
          rows={4}
          class="w-full"
          placeholder={HINT}
          spellcheck="false"
          value={(one.readings ?? []).join('\n')}
          onchange={(ev) => change(i, 'readings', lines(ev.currentTarget.value))}
        />
        <p class="soft text-sm">
          A third figure is the torque in the thread, where it was measured apart.
        </p>
      </div>
      <Word
        class="justify-self-start text-sm"
        onclick={() => write(part, name, series.toSpliced(i, 1))}>Remove tests</Word
      >
    </div>
  {/each}
  {#if error}<Helper class="text-stop">{error}</Helper>{/if}
  <Word class="justify-self-start text-sm" onclick={add}>Add friction tests</Word>
</div>
