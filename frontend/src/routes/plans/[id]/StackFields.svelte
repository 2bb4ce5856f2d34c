<script lang="ts">
  import Helper from 'flowbite-svelte/Helper.svelte';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import type { Group } from '#lib/plan.ts';
  import { sentence } from '#lib/sentence.ts';
  import Typed from './Typed.svelte';

  /** What a group clamps, from the turned side on. */
  let { bench, group, at }: { bench: Bench; group: Group; at: string } = $props();
</script>

<fieldset class="grid gap-2">
  <legend class="text-sm text-soft">Clamped parts, from the turned side on</legend>
  {#each group.stack ?? [] as layer, i (i)}
    {@const here = `${at}/stack/${i}`}
    <div class="grid grid-cols-[1fr_90px_90px_auto] items-end gap-2">
      <Typed
        {bench}
        part={layer}
        at={here}
        name="material"
        label="Part {i + 1}"
        list={catalogue.value?.materials}
      />
      <Typed {bench} part={layer} at={here} name="thickness" label="thick" />
      <Typed {bench} part={layer} at={here} name="outside" label="outside Ø" example="3 × face" />
      <Word
        class="pb-2 text-sm"
        label={sentence('bench.remove_part', { number: i + 1 })}
        onclick={() => group.stack!.splice(i, 1)}>Remove</Word
      >
      {#each catalogue.value?.layer_fields ?? [] as spec (spec.name)}
        <div class="col-span-4 -mt-1 text-sm">
          <FormField {spec} part={layer} label="Part {i + 1}: {spec.label}" shown={spec.label} />
        </div>
      {/each}
    </div>
  {/each}
  {#if bench.error(`${at}/stack`)}<Helper class="text-stop">{bench.error(`${at}/stack`)}</Helper
    >{/if}
  <Word
    class="justify-self-start text-sm"
    invalid={!!bench.error(`${at}/stack`)}
    onclick={() => bench.act('add_layer', { group: group.id })}>Add part</Word
  >
</fieldset>
