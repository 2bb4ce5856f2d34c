<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { fieldsOf, textOf, type FieldSpec, type Group } from '#lib/plan.ts';

  /**
   * A part that a group may have, as the server describes it; a word adds it, and takes it out
   * again.
   */
  let {
    bench,
    group,
    at,
    part,
  }: { bench: Bench; group: Group; at: string; part: Schemas['GroupPartOut'] } = $props();
  const own = $derived(fieldsOf(group)[part.name] as object | null | undefined);
  const here = $derived(`${at}/${part.name}`);
  const error = (spec: FieldSpec) => bench.errorIn(`${here}/${spec.name}`);
  const main = $derived(part.fields.filter((spec) => spec.main));
  const more = $derived(part.fields.filter((spec) => !spec.main));
  const set = (on: string) => bench.act('set_part', { group: group.id, part: part.name, on });
</script>

{#if own}
  <div class="grid grid-cols-3 items-end gap-2">
    {#each main as spec (spec.name)}<FormField {spec} part={own} error={error(spec)} />{/each}
    <Word class="justify-self-start pb-2 text-sm" onclick={() => set('no')}>{part.drop}</Word>
  </div>
  {#if more.length}
    <Fold title="more" open={more.some((spec) => textOf(own, spec.name) || error(spec))}>
      <div class="grid grid-cols-3 items-end gap-2">
        {#each more as spec (spec.name)}<FormField {spec} part={own} error={error(spec)} />{/each}
      </div>
    </Fold>
  {/if}
{:else if !part.needs || fieldsOf(group)[part.needs]}
  <Word class="justify-self-start text-sm" onclick={() => set('yes')}>{part.add}</Word>
{/if}
