<script lang="ts">
  import { asNumber, type Bench, type Doc } from '#lib/bench.svelte.ts';
  import type { Schemas } from '#lib/api/client.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';

  /** One stage: condition, cautions, items, checks or passes. */
  interface Props {
    bench: Bench;
    index: number;
    cautions: Record<string, string>;
    onwork: (figure: string, title: string) => void;
  }
  let { bench, index, cautions, onwork }: Props = $props();
  const stage = $derived(bench.doc.stages[index]);
  const computed = $derived<Schemas['StageOut'] | undefined>(bench.stale ? undefined : bench.result?.stages[index]);
  const e = $derived((path: string) => bench.errors[`stages/${index}/${path}`] ?? '');

  function fresh(list: { id: string }[], stem: string): string {
    let n = list.length + 1;
    while (list.some((x) => x.id === `${stem}${n}`)) n++;
    return `${stem}${n}`;
  }
  function condition(text: string) {
    const found = text.split(',').map((c) => c.trim()).filter(Boolean);
    if (found.length) stage.condition = found;
    else delete stage.condition;
  }
  function percent(p: Doc, text: string) {
    p.percent = asNumber(text);
  }
  function check(p: Doc, on: boolean) {
    if (on) Object.assign(p, { check: true, rounds: { until: 'none_moves', moved_above: '5 deg', max: 3 } });
    else {
      delete p.check;
      delete p.rounds;
    }
  }
  function caution(code: string, on: boolean) {
    const now: string[] = stage.cautions ?? [];
    stage.cautions = on ? [...now, code] : now.filter((c) => c !== code);
  }
  function limit(c: Doc, side: 'min' | 'max', text: string) {
    c.limit ??= {};
    if (text.trim()) c.limit[side] = text;
    else delete c.limit[side];
    if (!c.limit.min && !c.limit.max) delete c.limit;
  }
</script>

{#if stage.condition || ['tighten', 'inspect', 'measure'].includes(stage.kind)}
  <QuantityField label="Only in this condition" note="separated by commas" value={(stage.condition ?? []).join(', ')} error={e('condition')} onchange={condition} />
{/if}
{#if stage.kind === 'apply' || stage.kind === 'mark'}
  <QuantityField label="What" value={stage.what} error={e('what')} onchange={(t) => (stage.what = t)} />
{/if}
{#if stage.items}
  {#each stage.items as item, i (item.id)}
    <div class="grid grid-cols-[1fr_auto] items-end gap-2">
      <QuantityField label="To do {i + 1}" value={item.text} error={e(`items/${i}/text`)} onchange={(t) => (item.text = t)} />
      {#if stage.items.length > 1}<button class="link pb-2 text-sm" aria-label="Take out “{item.text}”" onclick={() => stage.items.splice(i, 1)}>take out</button>{/if}
    </div>
  {/each}
  <button class="link text-left text-sm" onclick={() => stage.items.push({ id: fresh(stage.items, 'i'), text: 'New item' })}>+ item</button>
{/if}
{#if stage.checks}
  {#each stage.checks as c, i (c.id)}
    <div class="grid grid-cols-[1fr_72px_72px_auto] items-end gap-2">
      <QuantityField label="Check {i + 1}" value={c.what} error={e(`checks/${i}/what`) || e(`checks/${i}/limit`)} onchange={(t) => (c.what = t)} />
      <QuantityField label="from" value={c.limit?.min ?? ''} example="–" error={e(`checks/${i}/limit/min`)} onchange={(t) => limit(c, 'min', t)} />
      <QuantityField label="to" value={c.limit?.max ?? ''} example="–" error={e(`checks/${i}/limit/max`)} onchange={(t) => limit(c, 'max', t)} />
      {#if stage.checks.length > 1}<button class="link pb-2 text-sm" aria-label="Take out “{c.what}”" onclick={() => stage.checks.splice(i, 1)}>out</button>{/if}
    </div>
  {/each}
  <button class="link text-left text-sm" onclick={() => stage.checks.push({ id: fresh(stage.checks, 'c'), what: 'New check' })}>+ check</button>
{/if}
{#if stage.passes}
  <table class="w-full text-[0.92rem]">
    <thead class="soft text-left text-sm"><tr><th class="font-normal">Pass</th><th class="font-normal">Share</th><th class="font-normal">Order</th><th class="font-normal">Set</th><th><span class="sr-only">Take out</span></th></tr></thead>
    <tbody>
      {#each stage.passes as p, i (p.id)}
        {@const out = computed?.passes.find((x) => x.id === p.id)}
        {@const setting = out?.settings[0]}
        <tr class="border-t align-top">
          <td class="py-1 pr-2">
            {#if p.do === 'hand'}by hand{:else}
              <label class="flex items-center gap-1"><input type="checkbox" checked={!!p.check} onchange={(ev) => check(p, ev.currentTarget.checked)} /> check</label>
            {/if}
          </td>
          <td class="py-1 pr-2">
            {#if p.do === 'torque'}
              <input class="field !w-16" aria-label="Share of pass {i + 1}, percent" value={String(p.percent)} aria-invalid={!!e(`passes/${i}/percent`)} oninput={(ev) => percent(p, ev.currentTarget.value)} />
              {#if e(`passes/${i}/percent`)}<p class="text-xs text-stop">{e(`passes/${i}/percent`)}</p>{/if}
            {:else}–{/if}
          </td>
          <td class="py-1 pr-2">
            <select class="field" aria-label="Order of pass {i + 1}" value={p.order?.kind ?? (p.do === 'hand' ? 'circle' : 'cross')} onchange={(ev) => (p.order = { ...(p.order ?? {}), kind: ev.currentTarget.value })}>
              {#each ['cross', 'star', 'circle'] as kind (kind)}<option>{kind}</option>{/each}
            </select>
            {#if e(`passes/${i}/order`)}<p class="text-xs text-stop">{e(`passes/${i}/order`)}</p>{/if}
          </td>
          <td class="py-1 whitespace-nowrap">
            {#if setting}
              <button class="link" title="working" onclick={() => onwork(`${stage.id}/${p.id}/${out!.group}/setting/${setting.chain}`, `Setting of ${out!.name}`)}>{setting.text}</button>
              {#if setting.scale}<span class="soft block text-xs">{setting.scale.main} + {setting.scale.collar}</span>{/if}
            {:else}–{/if}
          </td>
          <td class="py-1 text-right">{#if stage.passes.length > 1}<button class="link text-sm" aria-label="Take out pass {i + 1}" onclick={() => stage.passes.splice(i, 1)}>out</button>{/if}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  <p class="flex gap-4 text-sm">
    <button class="link" onclick={() => stage.passes.push({ id: fresh(stage.passes, 'p'), do: 'torque', percent: 100, order: { kind: 'cross' } })}>+ pass</button>
    <button class="link" onclick={() => stage.passes.push({ id: fresh(stage.passes, 'p'), do: 'torque', percent: 100, order: { kind: 'circle' }, check: true, rounds: { until: 'none_moves', moved_above: '5 deg', max: 3 } })}>+ check round</button>
  </p>
{/if}
<details class="text-sm">
  <summary class="cursor-pointer text-soft">Cautions here: {(stage.cautions ?? []).length || 'none'}</summary>
  <div class="mt-1 grid gap-1">
    {#each Object.entries(cautions) as [code, words] (code)}
      <label class="flex gap-2"><input type="checkbox" checked={(stage.cautions ?? []).includes(code)} onchange={(ev) => caution(code, ev.currentTarget.checked)} /><span>{words}</span></label>
    {/each}
  </div>
</details>
