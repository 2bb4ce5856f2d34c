<script lang="ts">
  import Checkbox from 'flowbite-svelte/Checkbox.svelte';
  import { asNumber, listOf, textOf, valueOf, write, written, type FieldSpec } from '../../plan';
  import QuantityField from '../QuantityField/QuantityField.svelte';
  import Boxes from './Boxes.svelte';
  import RigTests from './RigTests.svelte';

  /**
   * One field of a form that the server describes, written into a part of the document as it is
   * typed.
   */
  interface Props {
    spec: FieldSpec;
    part: object;
    error?: string;
    /** Names out of the plan, for fields that choose among them: [value, words]. */
    names?: [string, string][];
    /** Called instead of writing, where the choice changes more than the field. */
    onchoose?: (value: string) => void;
    /**
     * Called instead of writing a tick that changes more than the field: with the label, or empty.
     */
    ontick?: (on: string) => void;
    /** Label for those who do not see where the field stands; `shown` is what the others see. */
    label?: string;
    shown?: string;
  }
  let { spec, part, error = '', names = [], onchoose, ontick, label, shown }: Props = $props();
  const words = $derived(label ?? spec.label);
  const choices = $derived<[string, string][]>((spec.choices ?? []).map((c) => [c.value, c.words]));
  const chosen = $derived([valueOf(part, spec.name) ?? []].flat().map(String));
  const asTyped = $derived(
    spec.kind === 'band' || spec.kind === 'percent' || spec.kind === 'share'
      ? written(valueOf(part, spec.name), spec.kind)
      : textOf(part, spec.name),
  );

  function typed(text: string): unknown {
    if (!text.trim()) return '';
    if (spec.kind === 'count') return asNumber(text);
    return spec.kind === 'list' ? listOf(text) : text;
  }
  const tick = (on: boolean) =>
    ontick ? ontick(on ? spec.label : '') : write(part, spec.name, on || '');
</script>

{#if spec.kind === 'tests'}
  <RigTests {part} name={spec.name} {error} />
{:else if spec.kind === 'tick'}
  <Checkbox
    checked={!!valueOf(part, spec.name)}
    aria-label={label}
    onchange={(ev) => tick(ev.currentTarget.checked)}>{shown ?? spec.label}</Checkbox
  >
{:else if spec.kind === 'boxes' || (names.length && !onchoose)}
  <Boxes
    legend={spec.label}
    choices={names.length ? names : choices}
    {chosen}
    {error}
    onchange={(now) => write(part, spec.name, now)}
  />
{:else if names.length || choices.length}
  <QuantityField
    label={words}
    {shown}
    value={textOf(part, spec.name) || (names.length ? '' : choices[0]![0])}
    choices={names.length ? [['', spec.example ?? ''], ...names] : choices}
    {error}
    onchange={(text) => (onchoose ?? ((value: string) => write(part, spec.name, value)))(text)}
  />
{:else}
  <QuantityField
    label={words}
    {shown}
    value={asTyped}
    note={spec.note}
    example={spec.example}
    {error}
    onchange={(text) => write(part, spec.name, typed(text))}
  />
{/if}
