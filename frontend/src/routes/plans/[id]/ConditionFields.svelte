<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Boxes from '#lib/parts/Form/Boxes.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { fieldsOf, textOf, write } from '#lib/plan.ts';
  import { sentence } from '#lib/sentence.ts';

  /**
   * The condition of a stage or a pass: a choice on each axis of the joint, what is in place, own
   * words beside them.
   */
  interface Props {
    bench: Bench;
    /** The stage or the pass. */
    part: object;
    /** Where the condition stands in the document. */
    at: string;
    /**
     * The number of the pass whose condition it is, for those who do not see where the fields
     * stand.
     */
    pass?: number;
  }
  let { bench, part, at, pass }: Props = $props();
  const named = (field: string) =>
    pass ? sentence('bench.in_pass', { field, number: pass }) : field;
  const axes = $derived(catalogue.value?.conditions[bench.doc.joint_kind] ?? []);
  const condition = $derived((fieldsOf(part).condition as object | undefined) ?? {});
  const states = $derived(catalogue.value?.states[bench.doc.joint_kind] ?? []);
  const put = $derived(
    bench.doc.stages.flatMap((s) => s.brings ?? []).filter((word) => !states.includes(word)),
  );
  const placed = $derived((fieldsOf(condition).in_place as string[] | undefined) ?? []);
  const known = $derived([
    ...new Set([...(catalogue.value?.safeguards ?? []), ...put, ...placed].filter(Boolean)),
  ]);
  /** A temperature that is a figure is chosen as such. */
  const AT = 'at';
  const set = (name: string, value: unknown) => write(part, `condition.${name}`, value);
</script>

<div class="grid grid-cols-2 items-end gap-2">
  {#each axes as axis (axis.name)}
    {@const value = textOf(condition, axis.name)}
    {@const figure = axis.figure && !!value && !axis.choices.some((c) => c.value === value)}
    <QuantityField
      label={named(axis.words)}
      shown={axis.words}
      value={figure ? AT : value}
      choices={[
        ['', 'Not specified'],
        ...axis.choices.map((c): [string, string] => [c.value, c.words]),
        ...(axis.figure ? [[AT, 'at …'] as [string, string]] : []),
      ]}
      error={figure ? '' : bench.errorIn(`${at}/${axis.name}`)}
      onchange={(to) => set(axis.name, to)}
    />
    {#if figure}
      <QuantityField
        label={named('Temperature, in figures')}
        shown="At"
        value={value === AT ? '' : value}
        example="80 °C"
        error={bench.errorIn(`${at}/${axis.name}`)}
        onchange={(text) => set(axis.name, text.trim() ? text : AT)}
      />
    {/if}
  {/each}
</div>
{#if known.length}
  <Boxes
    legend={named('In place')}
    choices={known.map((word): [string, string] => [word, word])}
    chosen={placed}
    error={bench.errorIn(`${at}/in_place`)}
    onchange={(now) => set('in_place', now)}
  />
{/if}
<QuantityField
  label={named('Remark on the condition')}
  shown="Remark · shown to the fitter, not evaluated"
  value={textOf(condition, 'says')}
  example="none"
  error={bench.error(at) || bench.errorIn(`${at}/says`)}
  onchange={(text) => set('says', text)}
/>
