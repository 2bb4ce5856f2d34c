<script lang="ts">
  import type { Bench } from '#lib/bench.svelte.ts';
  import { asNumber } from '#lib/figures.ts';
  import type { Schemas } from '#lib/api/client.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import OtherLubricants from './OtherLubricants.svelte';

  /** Find the figure: grade, friction, source or calculation, bounds. */
  interface Props {
    bench: Bench;
    group: number;
    tables: Schemas['TablesOut'] | null;
    own: Schemas['OwnEntryView'][];
    onwork: (figure: string, title: string) => void;
  }
  let { bench, group, tables, own, onwork }: Props = $props();
  const g = $derived(bench.doc.groups[group]);
  const at = $derived(`groups/${group}`);
  const target = $derived(bench.doc.targets[g.id]);
  const e = $derived((path: string) => bench.errors[`${at}/${path}`] ?? '');
  const t = $derived((path: string) => bench.errors[`targets/${g.id}/${path}`] ?? '');
  const sourceIndex = $derived((bench.doc.sources ?? []).findIndex((s: { id: string }) => s.id === target?.source));
  const source = $derived(sourceIndex >= 0 ? bench.doc.sources[sourceIndex] : null);
  const s = $derived((path: string) => bench.errors[`sources/${sourceIndex}/${path}`] ?? '');
  const kind = $derived(target?.kind === 'torque' && target.source ? 'source' : (target?.kind ?? 'none'));
  const listed = $derived(bench.result?.groups[group]?.sources ?? []);
  const lubricants = $derived<[string, string][]>([
    ...Object.entries(bench.doc.definitions?.lubricants ?? {}).map(([id, l]): [string, string] => [
      id,
      (l as { name: string }).name,
    ]),
    ...own
      .filter((o) => o.kind === 'lubricant' && !bench.doc.definitions?.lubricants?.[o.key])
      .map((o): [string, string] => [o.key, `${(o.body as { name: string }).name} (own)`]),
    ...(tables?.lubricants ?? []).map((l): [string, string] => [l.id, l.name]),
  ]);
  const band = $derived(g.friction.mu_thread ? g.friction.mu_thread.join(' ') : '');

  function lubricant(id: string) {
    const entry = own.find((o) => o.kind === 'lubricant' && o.key === id);
    if (entry && !bench.doc.definitions?.lubricants?.[id]) {
      // the plan embeds a copy, so that the file stands alone
      bench.doc.definitions ??= {};
      bench.doc.definitions.lubricants = { ...(bench.doc.definitions.lubricants ?? {}), [id]: entry.body };
    }
    g.friction.lubricant = id;
  }
  function choose(found: string) {
    const now = bench.result?.groups[group]?.target?.torque_Nm ?? 100;
    const torque = `${Math.round(now)} N·m`;
    if (found === 'ranked') bench.doc.targets[g.id] = { kind: 'ranked' };
    else if (found === 'torque+angle') bench.doc.targets[g.id] = { kind: 'torque+angle', torque, angle: '60 deg' };
    else if (found === 'source') {
      const id = `s${(bench.doc.sources ?? []).length + 1}`;
      bench.doc.sources = [
        ...(bench.doc.sources ?? []),
        { id, groups: [g.id], by: 'equipment maker', reference: '', says: { torque: [torque] } },
      ];
      bench.doc.targets[g.id] = { kind: 'torque', source: id };
    } else if (found === 'torque') bench.doc.targets[g.id] = { kind: 'torque', torque };
    else if (found === 'preload') bench.doc.targets[g.id] = { kind: 'preload', preload: '100 kN' };
    else bench.doc.targets[g.id] = { kind: 'yield_fraction', fraction: 0.5 };
  }
  function friction(text: string) {
    const numbers = text
      .trim()
      .split(/[\s;]+/)
      .filter(Boolean)
      .map(asNumber);
    if (!numbers.length) {
      delete g.friction.mu_thread;
      delete g.friction.mu_bearing;
    } else {
      g.friction.mu_thread = numbers;
      g.friction.mu_bearing = [...numbers];
    }
  }
  function optional(holder: Record<string, unknown>, field: string, text: string) {
    if (text.trim()) holder[field] = text;
    else delete holder[field];
  }
  function share(text: string) {
    g.limits ??= {};
    if (!text.trim()) delete g.limits.yield_fraction;
    else {
      const number = asNumber(text.replace('%', ''));
      g.limits.yield_fraction = typeof number === 'number' ? Number((number / 100).toFixed(4)) : text;
    }
  }
</script>

<div class="grid grid-cols-2 gap-2">
  <QuantityField
    label="Grade"
    value={g.fastener.grade}
    list={tables?.grades}
    error={e('fastener/grade')}
    onchange={(text) => (g.fastener.grade = text)}
  />
  <QuantityField
    label="History"
    value={g.fastener.history ?? 'known'}
    choices={[
      ['known', 'known'],
      ['unknown', 'unknown'],
    ]}
    onchange={(text) => (g.fastener.history = text)}
  />
  <QuantityField
    label="Friction condition"
    value={g.friction.lubricant ?? ''}
    choices={lubricants}
    error={e('friction/lubricant') || e('friction')}
    onchange={lubricant}
  />
  <QuantityField
    label="Own band"
    note="low typical high"
    value={band}
    example="from table"
    error={e('friction/mu_thread') || e('friction/mu_thread/0')}
    onchange={friction}
  />
</div>
{#if listed.length}
  <table class="w-full text-[0.9rem]">
    <thead class="soft text-left text-sm"
      ><tr><th class="font-normal">Source</th><th class="font-normal">says</th><th class="font-normal">is</th></tr></thead
    >
    <tbody>
      {#each listed as one (one.id)}
        <tr class="border-t align-top {one.verdict === 'taken' ? 'bg-tint font-semibold' : ''}">
          <td class="py-1 pr-2"
            >{one.by}{one.reference ? `, ${one.reference}` : ''}{#if one.why}<span class="soft block text-sm font-normal"
                >{one.why}</span
              >{/if}</td
          >
          <td class="py-1 pr-2 {one.verdict === 'struck' ? 'line-through' : ''}">{one.says}</td>
          <td class="py-1 whitespace-nowrap">
            {#if one.verdict === 'valid' && one.torque_Nm}<button
                class="link text-sm"
                onclick={() =>
                  (bench.doc.targets[g.id] = {
                    kind: 'torque',
                    source: one.id,
                    ...(target?.reason ? { reason: target.reason } : {}),
                  })}>take</button
              >{:else}{one.verdict}{/if}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
<QuantityField
  label="Target comes from"
  value={kind}
  error={kind === 'none' || kind === 'ranked' ? bench.errors[`targets/${g.id}`] : ''}
  choices={[
    ['ranked', 'the source that ranks first'],
    ['source', 'a source I choose'],
    ['torque', 'a torque I enter'],
    ['torque+angle', 'torque plus angle'],
    ['preload', 'a clamp load (calculated)'],
    ['yield_fraction', 'a share of yield (calculated)'],
    ...(kind === 'none' ? ([['none', 'no figure']] as [string, string][]) : []),
  ]}
  onchange={choose}
/>
{#if kind === 'source' && source?.says.torque}
  <div class="grid grid-cols-2 gap-2">
    <QuantityField
      label="Torque it says"
      value={source.says.torque[0]}
      error={s('says/torque/0')}
      onchange={(text) => (source.says.torque[0] = text)}
    />
    <QuantityField
      label="… and in a second unit"
      value={source.says.torque[1] ?? ''}
      example="if written"
      error={s('says/torque/1')}
      onchange={(text) => (source.says.torque = text.trim() ? [source.says.torque[0], text] : [source.says.torque[0]])}
    />
    <QuantityField
      label="By"
      value={source.by}
      choices={['equipment maker', 'gasket maker', 'part maker', 'standard', 'site rule'].map((x) => [x, x])}
      onchange={(text) => (source.by = text)}
    />
    <QuantityField
      label="Reference"
      value={source.reference ?? ''}
      error={s('reference')}
      onchange={(text) => (source.reference = text)}
    />
  </div>
{:else if kind === 'torque'}
  <QuantityField
    label="Torque"
    value={target.torque ?? ''}
    example="450 N·m"
    error={t('torque') || bench.errors[`targets/${g.id}`] || ''}
    onchange={(text) => (target.torque = text)}
  />
{:else if kind === 'torque+angle'}
  <div class="grid grid-cols-2 gap-2">
    <QuantityField label="Snug torque" value={target.torque} error={t('torque')} onchange={(text) => (target.torque = text)} />
    <QuantityField label="Angle after it" value={target.angle} error={t('angle')} onchange={(text) => (target.angle = text)} />
  </div>
{:else if kind === 'preload'}
  <QuantityField
    label="Clamp load of one bolt"
    value={target.preload}
    error={t('preload')}
    onchange={(text) => (target.preload = text)}
  />
{:else if kind === 'yield_fraction'}
  <QuantityField
    label="Share of yield"
    note="0.5 is half"
    value={String(target.fraction)}
    error={t('fraction')}
    onchange={(text) => (target.fraction = asNumber(text))}
  />
{/if}
{#if target}<QuantityField
    label="Because"
    value={target.reason ?? ''}
    example="reason, where another source is overruled"
    error={t('reason')}
    onchange={(text) => optional(target, 'reason', text)}
  />{/if}
<div class="grid grid-cols-2 gap-2">
  <QuantityField
    label="Joint needs, per bolt"
    value={g.required_clamp ?? ''}
    example="not given"
    error={e('required_clamp')}
    onchange={(text) => optional(g, 'required_clamp', text)}
  />
  <QuantityField
    label="At most, % of yield"
    value={g.limits?.yield_fraction === undefined
      ? ''
      : typeof g.limits.yield_fraction === 'number'
        ? String(Number((g.limits.yield_fraction * 100).toFixed(2)))
        : g.limits.yield_fraction}
    example="no bound"
    error={e('limits/yield_fraction')}
    onchange={share}
  />
</div>
{#if g.gasket}
  <div class="grid grid-cols-3 gap-2">
    <QuantityField
      label="Gasket outside"
      value={g.gasket.outside}
      error={e('gasket/outside')}
      onchange={(text) => (g.gasket.outside = text)}
    />
    <QuantityField
      label="inside"
      value={g.gasket.inside}
      error={e('gasket/inside')}
      onchange={(text) => (g.gasket.inside = text)}
    />
    <QuantityField
      label="seats at"
      value={g.gasket.seating ?? ''}
      error={e('gasket/seating')}
      onchange={(text) => optional(g.gasket, 'seating', text)}
    />
    <QuantityField
      label="service needs"
      value={g.gasket.service ?? ''}
      error={e('gasket/service')}
      onchange={(text) => optional(g.gasket, 'service', text)}
    />
    <QuantityField
      label="damaged at"
      value={g.gasket.damage ?? ''}
      error={e('gasket/damage')}
      onchange={(text) => optional(g.gasket, 'damage', text)}
    />
    <button class="link self-end text-left text-sm" onclick={() => delete g.gasket}>no gasket</button>
  </div>
{:else if bench.doc.joint_kind === 'gasketed_cover'}
  <button
    class="link text-left text-sm"
    onclick={() => (g.gasket = { name: 'gasket', outside: '380 mm', inside: '350 mm', seating: '30 MPa' })}>+ gasket</button
  >
{/if}
<OtherLubricants {bench} group={g.id} />
{#if bench.result?.groups[group]?.preload}
  {@const r = bench.result.groups[group]}
  <p class="soft text-sm">
    {#if r.split}Of the torque {(r.split.pitch * 100).toFixed(0)} % stretches the bolt, {(r.split.thread * 100).toFixed(0)} % rubs in
      the thread, {(r.split.bearing * 100).toFixed(0)} % under the head.
    {/if}
    {#if r.share_of_yield}Typically {(r.share_of_yield * 100).toFixed(0)} % of yield.
    {/if}
    {#if r.losses.embedding_N}Settling takes {(r.losses.embedding_N / 1000).toFixed(1)} kN{r.losses.creep_share
        ? `, creep ${(r.losses.creep_share * 100).toFixed(0)} %`
        : ''}.
    {/if}
    {#if r.stiffness}One degree is {(r.stiffness.gain_N_per_deg / 1000).toFixed(2)} kN; the bolt is {r.stiffness.elongation_mm.toFixed(
        3,
      )} mm longer.
    {/if}
    {#if r.teeth}{r.teeth.turns.toFixed(1)} turns engaged, {r.teeth.required_mm.toFixed(1)} mm needed.{/if}
  </p>
  <p class="flex flex-wrap gap-x-4 text-sm">
    <span class="soft">working of</span>
    {#each [['torque', 'torque'], ['preload', 'preload'], ['split', 'split'], ['losses', 'losses'], ...(r.stiffness ? [['stiffness', 'stiffness']] : []), ...(r.teeth ? [['teeth', 'thread']] : [])] as [name, words] (name)}
      <button class="link" onclick={() => onwork(`${g.id}/${name}`, words![0]!.toUpperCase() + words!.slice(1))}>{words}</button>
    {/each}
  </p>
{/if}
