<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { textOf, type Group } from '#lib/plan.ts';
  import Typed from './Typed.svelte';

  /** Thread, head, seat, and what the thread goes into. */
  let { bench, group, at }: { bench: Bench; group: Group; at: string } = $props();
  const bolt = $derived(group.fastener);
  const shank = $derived(catalogue.value?.bolt_fields ?? []);
  const heads = $derived<[string, string][]>((catalogue.value?.heads ?? []).map((h) => [h, h]));
</script>

<div class="grid grid-cols-3 items-end gap-2">
  <Typed
    {bench}
    part={bolt}
    at="{at}/fastener"
    name="thread"
    label="Thread"
    list={catalogue.value?.threads}
  />
  <Typed {bench} part={bolt} at="{at}/fastener" name="head" label="Head" choices={heads} />
  <QuantityField
    label="Seat"
    value={bolt.face?.kind ?? 'table'}
    choices={[
      ['table', 'by size'],
      ['flat', 'flat bearing face'],
      ['cone', 'cone'],
    ]}
    error={bench.error(`${at}/fastener/face`)}
    onchange={(kind) => bench.act('set_face', { group: group.id, kind })}
  />
</div>
{#if bolt.face}
  {@const here = `${at}/fastener/face`}
  <div class="grid grid-cols-3 items-end gap-2">
    {#if bolt.face.kind === 'cone'}
      <Typed {bench} part={bolt.face} at={here} name="half_angle" label="Half-angle" />
      <Typed
        {bench}
        part={bolt.face}
        at={here}
        name="effective_diameter"
        label="Effective Ø"
        example="by size"
      />
    {:else}
      <Typed {bench} part={bolt.face} at={here} name="face_diameter" label="Face Ø" />
      <Typed {bench} part={bolt.face} at={here} name="hole" label="Hole Ø" />
    {/if}
  </div>
{/if}
<div class="grid grid-cols-3 items-end gap-2">
  <QuantityField
    label="Goes into"
    value={group.into?.kind ?? ''}
    choices={[
      ['', 'Not specified'],
      ['nut', 'a nut'],
      ['tapped', 'a tapped part'],
    ]}
    onchange={(kind) => bench.act('set_into', { group: group.id, kind })}
  />
  {#if group.into}
    <Typed
      {bench}
      part={group.into}
      at="{at}/into"
      name="engaged"
      label="Engaged"
      example="Not specified"
    />
    {#if group.into.kind === 'tapped'}
      <Typed
        {bench}
        part={group.into}
        at="{at}/into"
        name="material"
        label="Material"
        list={catalogue.value?.materials}
      />
      <Typed
        {bench}
        part={group.into}
        at="{at}/into"
        name="depth"
        label="Thread in the hole"
        example="through"
      />
      <Typed
        {bench}
        part={group.into}
        at="{at}/into"
        name="spacer"
        label="Spacer under it"
        example="none"
      />
      <Typed
        {bench}
        part={group.into}
        at="{at}/into"
        name="shear"
        label="Shear strength"
        example="of its material"
      />
      <Typed
        {bench}
        part={group.into}
        at="{at}/into"
        name="reach"
        label="Bolt comes in"
        example="as engaged"
      />
    {/if}
  {/if}
</div>
<Fold
  title="stud, shank"
  open={shank.some(
    (spec) => textOf(bolt, spec.name) || bench.errorIn(`${at}/fastener/${spec.name}`),
  )}
>
  <div class="grid grid-cols-3 items-end gap-2">
    {#each shank as spec (spec.name)}
      <FormField {spec} part={bolt} error={bench.errorIn(`${at}/fastener/${spec.name}`)} />
    {/each}
  </div>
</Fold>
