<script lang="ts">
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import TestedBand from '#lib/parts/TestedBand.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';

  /** Own grades, materials and friction conditions of this plan; its file carries them along. */
  let { bench, group }: { bench: Bench; group: string } = $props();
  const forms = $derived(catalogue.value?.own_forms ?? []);
  const definitions = $derived(bench.doc.definitions ?? {});
  const PLACES: Record<string, 'grades' | 'materials' | 'lubricants'> = {
    grade: 'grades',
    material: 'materials',
    lubricant: 'lubricants',
  };
  const own = $derived(
    forms.flatMap((form) =>
      Object.entries(definitions[PLACES[form.kind]!] ?? {}).map(([name, body]) => ({
        form,
        name,
        body: body as object,
      })),
    ),
  );
  let kind = $state('grade');
  let name = $state('');
  async function add() {
    await bench.act('add_own', { kind, name, group });
    name = '';
  }
</script>

<Fold
  title="Custom grades, materials, compounds"
  more={own.map((one) => one.name).join(', ') || 'none'}
  open={own.some((one) => !!bench.errorIn(`definitions/${PLACES[one.form.kind]}/${one.name}`))}
>
  {#each own as { form, name: key, body } (form.kind + key)}
    <div class="grid grid-cols-2 items-end gap-2 border-l-2 border-hairline pl-3">
      <p class="col-span-full flex justify-between">
        <span><b>{key}</b> <span class="soft">{form.words}</span></span>
        <Word
          class="text-sm"
          label={sentence('bench.remove_own', { kind: form.words, name: key })}
          onclick={() => bench.act('drop_own', { kind: form.kind, name: key })}>Remove</Word
        >
      </p>
      {#each form.fields as spec (spec.name)}
        <FormField
          {spec}
          part={body}
          error={bench.errorIn(`definitions/${PLACES[form.kind]}/${key}/${spec.name}`)}
        />
      {/each}
      <div class="col-span-full"><TestedBand tested={bench.result?.own_tests?.[key] ?? []} /></div>
    </div>
  {/each}
  <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
    <QuantityField
      label="New custom entry"
      value={kind}
      choices={forms.map((f): [string, string] => [f.kind, f.words])}
      onchange={(now) => (kind = now)}
    />
    <QuantityField
      label="Name"
      value={name}
      example="as on its sheet"
      onchange={(text) => (name = text)}
    />
    <Word class="pb-2 text-sm" disabled={!name.trim()} onclick={add}>+ add</Word>
  </div>
</Fold>
