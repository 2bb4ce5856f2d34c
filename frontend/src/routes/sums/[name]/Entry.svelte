<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import type { Sum } from './sum.svelte.ts';

  /** One field of a sum. */
  let { typed, field }: { typed: Sum; field: Schemas['SumField'] } = $props();
  const choices = $derived<[string, string][]>([
    ...(field.required ? [] : [['', 'not given'] as [string, string]]),
    ...field.choices.map((c): [string, string] => [c, c.replaceAll('-', ' ')]),
  ]);
</script>

<QuantityField
  label={field.words}
  value={typed.texts[field.name] ?? ''}
  choices={field.choices.length ? choices : undefined}
  error={typed.errors[field.name] ?? ''}
  onchange={(text) => typed.type(field.name, text)}
/>
