<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import { small } from '#lib/figures.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import FormField from '#lib/parts/Form/FormField.svelte';
  import { namesIn, textOf, valueOf, write, type FieldSpec } from '#lib/plan.ts';

  /** Fields of a part that most plans do not need; open where one of them is given or wrong. */
  interface Props {
    bench: Bench;
    part: object;
    /** Where that part stands in the document. */
    at: string;
    /** Which fields: as the tables name them. */
    about: string;
    title?: string;
    open?: boolean;
    /** Fields of its own kind beside them. */
    children?: Snippet;
  }
  let { bench, part, at, about, title = 'more', open = false, children }: Props = $props();
  const ways = $derived(namesIn.variants(bench.doc));
  const specs = $derived(
    (catalogue.value?.more_fields[about] ?? []).filter(
      (spec) =>
        (spec.kind !== 'variants' || ways.length) &&
        (spec.name !== 'across' || bench.doc.positions?.length),
    ),
  );
  const each = $derived<[string, string][]>([
    ['position', 'each position'],
    ['run', 'the whole work'],
    ...bench.doc.groups.map((g): [string, string] => [g.id, `each of ${g.name}`]),
  ]);
  const checks = $derived(namesIn.checks(bench.doc));
  const names = (spec: FieldSpec) =>
    (
      ({ groups: each, variants: ways, check: checks }) as Partial<
        Record<string, [string, string][]>
      >
    )[spec.kind ?? ''] ?? [];
  /** One of these names, not several. */
  const single = (spec: FieldSpec) => spec.kind === 'groups' || spec.kind === 'check';
  /** What is given, in words. */
  const said = $derived(
    specs
      .filter((spec) => textOf(part, spec.name))
      .map((spec) => {
        const words = new Map([
          ...names(spec),
          ...(spec.choices ?? []).map((c): [string, string] => [c.value, c.words]),
        ]);
        const values = [valueOf(part, spec.name)]
          .flat()
          .map((one) => words.get(String(one)) ?? String(one));
        return `${small(spec.label)}: ${spec.kind === 'tick' ? 'yes' : values.join(', ')}`;
      })
      .join('; '),
  );
  const error = (name: string) => bench.errorIn(`${at}/${name}`);
</script>

<Fold {title} open={open || specs.some((spec) => error(spec.name))}>
  {@render children?.()}
  <div class="grid grid-cols-2 items-end gap-2">
    {#each specs as spec (spec.name)}
      <div class={spec.kind === 'tests' || spec.name === 'across' ? 'col-span-full' : ''}>
        <FormField
          spec={spec.kind === 'groups' ? { ...spec, example: 'each position' } : spec}
          {part}
          error={error(spec.name)}
          names={names(spec)}
          onchoose={single(spec) ? (value) => write(part, spec.name, value) : undefined}
        />
      </div>
    {/each}
  </div>
</Fold>
{#if said}<p class="soft text-sm">{said}</p>{/if}
