<script lang="ts">
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
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
  const band = $derived(written(fieldsOf(group.friction).mu_thread, 'band'));
  /** One band as typed holds for thread and bearing face. */
  function ownBand(text: string) {
    for (const name of ['mu_thread', 'mu_bearing']) write(group.friction, name, text.trim() ? text : '');
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
  label="Own band"
  note="low typical high"
  value={band}
  example="from table"
  error={bench.errorIn(`${at}/friction/mu_thread`)}
  onchange={ownBand}
/>
