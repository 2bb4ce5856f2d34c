<script lang="ts">
  import type { Bench, Doc } from '#lib/bench.svelte.ts';
  import { asNumber } from '#lib/figures.ts';
  import type { Schemas } from '#lib/api/client.ts';
  import { passWord } from './sections';

  /** The passes of a tighten stage, whatever they turn; a method can be taken as it is or taken over and edited. */
  interface Props {
    bench: Bench;
    index: number;
    methods: Schemas['MethodOut'][];
    onwork: (figure: string, title: string) => void;
  }
  let { bench, index, methods, onwork }: Props = $props();
  const stage = $derived(bench.doc.stages[index]);
  const computed = $derived<Schemas['StageOut'] | undefined>(bench.stale ? undefined : bench.result?.stages[index]);
  const e = $derived((path: string) => bench.errors[`stages/${index}/${path}`] ?? '');
  const layouts = $derived(
    new Set(bench.doc.groups.filter((g: Doc) => (stage.groups ?? []).includes(g.id)).map((g: Doc) => g.layout.kind)),
  );
  const orders = $derived(
    layouts.has('circle') || !layouts.size ? ['cross', 'star', 'circle'] : ['cross', 'middle_out', 'centre_out', 'circle'],
  );
  const NEW: Record<string, Doc> = {
    pass: { do: 'torque', percent: 100, order: { kind: 'cross' } },
    'check round': {
      do: 'torque',
      percent: 100,
      order: { kind: 'circle' },
      check: true,
      rounds: { until: 'none_moves', moved_above: '5 deg', max: 3 },
    },
    angle: { do: 'angle', turn: '60 deg', window: ['55 deg', '65 deg'], read_by: 'angle disc', order: { kind: 'cross' } },
    wait: { do: 'wait', for: '10 min' },
  };

  function fresh(list: { id: string }[]): string {
    let n = list.length + 1;
    while (list.some((x) => x.id === `p${n}`)) n++;
    return `p${n}`;
  }
  function check(p: Doc, on: boolean) {
    if (on) Object.assign(p, { check: true, rounds: { until: 'none_moves', moved_above: '5 deg', max: 3 } });
    else {
      delete p.check;
      delete p.rounds;
    }
  }
  function use(id: string) {
    const found = methods.find((m) => m.id === id);
    if (!found) return;
    delete stage.method;
    stage.passes = structuredClone($state.snapshot(found.passes));
  }
</script>

{#if stage.method}
  <p>
    Method <b>{methods.find((m) => m.id === stage.method)?.name ?? stage.method.replaceAll('_', ' ')}</b>: {computed?.passes
      .map((p) => p.name)
      .join(', ')}.
    <button class="link" onclick={() => use(stage.method)}>take it over and edit</button>
  </p>
{:else}
  <table class="w-full text-[0.92rem]">
    <thead class="soft text-left text-sm"
      ><tr
        ><th class="font-normal">Pass</th><th class="font-normal">Share</th><th class="font-normal">Order</th><th
          class="font-normal">Set</th
        ><th><span class="sr-only">Take out</span></th></tr
      ></thead
    >
    <tbody>
      {#each stage.passes as p, i (p.id)}
        {@const outs = (computed?.passes ?? []).filter((x) => x.id === p.id && x.settings?.length)}
        <tr class="border-t align-top">
          <td class="py-1 pr-2">
            {#if p.do === 'torque'}
              <label class="flex items-center gap-1"
                ><input type="checkbox" checked={!!p.check} onchange={(ev) => check(p, ev.currentTarget.checked)} /> check</label
              >
              {#if p.repeat}<span class="soft text-xs">until {p.repeat.still} still</span>{:else if p.rounds && !p.check}<span
                  class="soft text-xs">until none moves</span
                >{/if}
            {:else}{passWord(p)}{/if}
          </td>
          <td class="py-1 pr-2">
            {#if p.do === 'torque'}
              <input
                class="field !w-16"
                aria-label="Share of pass {i + 1}, percent"
                value={String(p.percent)}
                aria-invalid={!!e(`passes/${i}/percent`)}
                oninput={(ev) => (p.percent = asNumber(ev.currentTarget.value))}
              />
            {:else if p.turn !== undefined}
              <input
                class="field !w-20"
                aria-label="Turn of pass {i + 1}"
                value={p.turn}
                aria-invalid={!!e(`passes/${i}/turn`)}
                oninput={(ev) => (p.turn = ev.currentTarget.value)}
              />
            {:else if p.do === 'wait'}
              <input
                class="field !w-20"
                aria-label="Pause {i + 1}"
                value={p.for}
                aria-invalid={!!e(`passes/${i}/for`)}
                oninput={(ev) => (p.for = ev.currentTarget.value)}
              />
            {:else}–{/if}
            {#each ['percent', 'turn', 'for', 'window'] as field (field)}{#if e(`passes/${i}/${field}`)}<p
                  class="text-xs text-stop"
                >
                  {e(`passes/${i}/${field}`)}
                </p>{/if}{/each}
            {#if p.do === 'gap_round'}<span class="soft block text-xs"
                >stop at {p.stop_at}, spread {p.max_spread}{p.cap ? `, cap ${p.cap}` : ''}</span
              >{/if}
            {#if p.window}<span class="soft block text-xs">{p.window.join(' to ')}</span>{/if}
          </td>
          <td class="py-1 pr-2">
            {#if p.do !== 'wait'}
              <select
                class="field"
                aria-label="Order of pass {i + 1}"
                value={p.order?.kind ?? (['torque', 'angle', 'feel'].includes(p.do) ? 'cross' : 'circle')}
                onchange={(ev) => (p.order = { ...(p.order ?? {}), kind: ev.currentTarget.value })}
              >
                {#each [...orders, ...(p.order?.kind && !orders.includes(p.order.kind) ? [p.order.kind] : [])] as kind (kind)}<option
                    value={kind}>{kind.replace('_', ' ')}</option
                  >{/each}
              </select>
              {#if e(`passes/${i}/order`)}<p class="text-xs text-stop">{e(`passes/${i}/order`)}</p>{/if}
            {/if}
          </td>
          <td class="py-1 whitespace-nowrap">
            {#each outs as out (out.group)}
              {@const setting = out.settings![0]!}
              <button
                class="link block"
                title="working"
                disabled={p.do !== 'torque'}
                onclick={() => onwork(`${stage.id}/${p.id}/${out.group}/setting/${setting.chain}`, `Setting of ${out.name}`)}
                >{setting.text}</button
              >
              {#if setting.scale}<span class="soft block text-xs">{setting.scale.main} + {setting.scale.collar}</span>{/if}
            {:else}–{/each}
          </td>
          <td class="py-1 pl-2 text-right"
            >{#if stage.passes.length > 1}<button
                class="link text-sm"
                aria-label="Take out pass {i + 1}"
                onclick={() => stage.passes.splice(i, 1)}>out</button
              >{/if}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
  <p class="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
    {#each Object.keys(NEW) as name (name)}
      <button class="link" onclick={() => stage.passes.push({ id: fresh(stage.passes), ...structuredClone(NEW[name]) })}
        >+ {name}</button
      >
    {/each}
    <label class="ml-auto flex items-center gap-1 text-soft"
      >method
      <select class="field !w-44" value="" onchange={(ev) => use(ev.currentTarget.value)}>
        <option value="">replace by …</option>
        {#each methods as m (m.id)}<option value={m.id}>{m.name}</option>{/each}
      </select></label
    >
  </p>
{/if}
