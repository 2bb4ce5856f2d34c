<script lang="ts">
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { day, digits } from '#lib/figures.ts';
  import Sentence from '#lib/parts/Sentence.svelte';
  import { fieldsOf, write, written, type Group } from '#lib/plan.ts';

  /** The friction condition: of the plan itself, an own entry, or of the tables; or an own band. */
  let { bench, group, at }: { bench: Bench; group: Group; at: string } = $props();
  const own = new Asked<Schemas['OwnList']>();
  void own.ask(() => api.GET('/api/v1/own-entries'));
  const defined = $derived(bench.doc.definitions?.lubricants ?? {});
  const choices = $derived<[string, string][]>([
    ...Object.entries(defined).map(([id, one]): [string, string] => [id, one.name]),
    ...(own.value?.items ?? [])
      .filter((o) => o.kind === 'lubricant' && !defined[o.key])
      .map((o): [string, string] => [o.key, `${(o.body as Schemas['OwnLubricant']).name} (own)`]),
    ...(catalogue.value?.lubricants ?? []).map((l): [string, string] => [l.id, l.name]),
  ]);
  const lessons = new Asked<Schemas['LessonList']>();
  void lessons.ask(() => api.GET('/api/v1/lessons'));
  /** What own records say of the compound that is chosen. */
  const learned = $derived(
    (lessons.value?.items ?? []).filter(
      (one) => one.kind === 'friction' && one.key === group.friction.lubricant,
    ),
  );
  const band = $derived(written(fieldsOf(group.friction).mu_thread, 'band'));
  /** One band as typed holds for thread and bearing face. */
  function ownBand(text: string) {
    for (const name of ['mu_thread', 'mu_bearing'])
      write(group.friction, name, text.trim() ? text : '');
  }
</script>

<QuantityField
  label="Friction condition"
  value={group.friction.lubricant ?? ''}
  {choices}
  error={own.failed || bench.error(`${at}/friction/lubricant`) || bench.error(`${at}/friction`)}
  onchange={(lubricant) => bench.act('take_lubricant', { group: group.id, lubricant })}
/>
<QuantityField
  label="Own friction values"
  note="low typical high"
  value={band}
  example="from table"
  error={bench.errorIn(`${at}/friction/mu_thread`)}
  onchange={ownBand}
/>
{#each learned as one (one.title)}
  <p class="soft col-span-full text-sm">
    <Sentence
      key="bench.own_records"
      values={{
        title: one.title,
        band: [one.low, one.typical, one.high].map((v) => digits(v, 3)).join(' – '),
        count: one.count,
        day: day(one.until),
      }}
      href="/tables?table=lessons"
    />
  </p>
{/each}
