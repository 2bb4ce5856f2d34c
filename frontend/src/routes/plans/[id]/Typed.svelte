<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { asNumber, listOf, textOf, valueOf, write, written as showWritten } from '#lib/plan.ts';

  /**
   * A field of the plan by its place in the document, written as it is typed; the server's sentence
   * stands at it.
   */
  interface Props {
    bench: Bench;
    /** The part of the document that holds the field. */
    part: object;
    /** Where that part stands in the document. */
    at: string;
    name: string;
    label: string;
    example?: string;
    note?: string;
    list?: string[];
    choices?: [string, string][];
    /**
     * How it is written: as text, as a whole number where it is one, as a share or ratio, or as a
     * list.
     */
    as?: 'text' | 'number' | 'share' | 'ratio' | 'list';
    /** Called after it was written. */
    onwritten?: () => void;
  }
  let {
    bench,
    part,
    at,
    name,
    label,
    example,
    note,
    list,
    choices,
    as = 'text',
    onwritten,
  }: Props = $props();
  const written = {
    text: (t: string) => (t.trim() ? t : ''),
    number: (t: string) => (t.trim() ? asNumber(t) : ''),
    share: (t: string) => (t.trim() ? t : ''),
    ratio: (t: string) => (t.trim() ? t : ''),
    list: listOf,
  };
  const shown = $derived(
    as === 'share' || as === 'ratio' ? showWritten(valueOf(part, name), as) : textOf(part, name),
  );
</script>

<QuantityField
  {label}
  {example}
  note={bench.examples.has(`${at}/${name}`) ? 'example' : note}
  {list}
  {choices}
  value={shown || (choices?.[0]?.[0] ?? '')}
  error={bench.errorIn(`${at}/${name}`)}
  onchange={(text) => {
    write(part, name, written[as](text));
    onwritten?.();
  }}
/>
