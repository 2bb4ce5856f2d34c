<script lang="ts">
  import { onMount } from 'svelte';
  import { goto } from '$app/navigation';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { api, sentence, type Schemas } from '#lib/api/client.ts';
  import { day } from '#lib/figures.ts';
  import { deviceId } from '#lib/offline/device.ts';
  import Mark from '#lib/parts/Mark.svelte';

  /** What is chosen before a run: occasion, variants, history, tools by serial. */
  let { revision, onclose }: { revision: string; onclose: () => void } = $props();
  let open = $state(true);
  let result = $state<Schemas['Result'] | null>(null);
  let tools = $state<Schemas['ToolView'][]>([]);
  let occasion = $state('install');
  let history = $state('known');
  let variants = $state<Record<string, string>>({});
  let chosen = $state<Record<string, string>>({});
  let error = $state('');
  let busy = $state(false);
  const uid = $props.id();
  const OCCASIONS: [string, string][] = [
    ['install', 'Tighten'],
    ['recheck', 'Recheck'],
    ['dismantle', 'Take apart'],
  ];
  const occasions = $derived(
    OCCASIONS.filter(([o]) => result?.stages.some((s) => s.kind !== 'prepare' && s.occasions.includes(o))),
  );
  const choices = $derived([...new Set((result?.variants ?? []).map((v) => v.choice))]);
  /** Plan tools that this occasion and these variants need. */
  const needed = $derived.by(() => {
    const taken = Object.values(variants);
    const done = result?.stages.filter(
      (s) => s.occasions.includes(occasion) && (!s.variants?.length || s.variants.some((v) => taken.includes(v))),
    );
    const names = new Set(done?.flatMap((s) => s.passes.flatMap((p) => (p.settings ?? []).map((x) => x.tool))));
    return (result?.tools ?? []).filter((t) => names.has(t.name));
  });

  $effect(() => {
    if (!open) onclose();
  });
  onMount(async () => {
    const [r, t] = await Promise.all([
      api.GET('/api/v1/revisions/{id}', { params: { path: { id: revision } } }),
      api.GET('/api/v1/tools'),
    ]);
    if (!r.data) {
      error = sentence(r.error);
      return;
    }
    result = r.data.result;
    tools = t.data?.items ?? [];
    for (const choice of choices) variants[choice] = result.variants!.find((v) => v.choice === choice)!.id;
    for (const tool of result.tools ?? [])
      chosen[tool.id] =
        tool.prefer.find((p) => tools.some((x) => x.serial === p && !x.blocked)) ?? fitting(tool)[0]?.serial ?? '';
  });

  /** Registered tools that reach what a plan asks, the good ones first. */
  function fitting(tool: Schemas['ToolOut']): Schemas['ToolView'][] {
    const preset = tool.kind === 'preset driver';
    return tools
      .filter(
        (t) =>
          !t.blocked && (preset ? t.high_Nm === tool.high_Nm : t.kind !== 'preset driver' && t.high_Nm >= tool.high_Nm * 0.6),
      )
      .sort((a, b) => Number(b.good) - Number(a.good) || Math.abs(a.high_Nm - tool.high_Nm) - Math.abs(b.high_Nm - tool.high_Nm));
  }
  async function start(event: Event) {
    event.preventDefault();
    busy = true;
    const bound = Object.fromEntries(needed.filter((t) => chosen[t.id]).map((t) => [t.id, chosen[t.id]!]));
    const { data, error: problem } = await api.POST('/api/v1/runs', {
      body: { revision, device: deviceId(), occasion, history, variants: Object.values(variants), tools: bound },
    });
    busy = false;
    if (data) await goto(`/runs/${data.id}`);
    else error = sentence(problem);
  }
</script>

<Modal bind:open title="Start a run" size="md" class="!bg-sheet !text-ink">
  {#if result}
    <form class="grid gap-4" onsubmit={start}>
      {#if result.links_before?.length}<p class="soft">Before this: {result.links_before.join('; ')}</p>{/if}
      {#if occasions.length > 1}
        <fieldset class="grid gap-2 sm:grid-cols-3">
          <legend class="mb-1 text-sm text-soft">What is done</legend>
          {#each occasions as [key, words] (key)}<label class="pick"
              ><input type="radio" bind:group={occasion} value={key} /> {words}</label
            >{/each}
        </fieldset>
      {/if}
      {#each choices as choice (choice)}
        <fieldset class="grid gap-2 sm:grid-cols-2">
          <legend class="mb-1 text-sm text-soft">{choice || 'Variant'}</legend>
          {#each result.variants!.filter((v) => v.choice === choice) as v (v.id)}<label class="pick"
              ><input type="radio" bind:group={variants[choice]} value={v.id} /> {v.name}</label
            >{/each}
        </fieldset>
      {/each}
      <fieldset class="grid gap-2 sm:grid-cols-2">
        <legend class="mb-1 text-sm text-soft">History of these bolts</legend>
        <label class="pick"><input type="radio" bind:group={history} value="known" /> known: as the last record says</label>
        <label class="pick"
          ><input type="radio" bind:group={history} value="unknown" /> unknown: slackened first in a recheck</label
        >
      </fieldset>
      {#each needed as tool (tool.id)}
        {@const now = tools.find((t) => t.serial === chosen[tool.id])}
        <div class="grid gap-1">
          <label for="{uid}-{tool.id}" class="text-sm text-soft"
            >{tool.name}, {tool.low_Nm === tool.high_Nm ? '' : `${tool.low_Nm} to `}{tool.high_Nm} N·m: take</label
          >
          <select id="{uid}-{tool.id}" class="field !min-h-14 !text-lg" bind:value={chosen[tool.id]}>
            <option value="">not named by serial</option>
            {#each fitting(tool) as t (t.serial)}<option value={t.serial}
                >{t.serial} · {t.kind}, to {t.high_Nm} N·m{t.good ? '' : ' · out of calibration'}</option
              >{/each}
          </select>
          {#if now}<p class="flex items-center gap-2 text-sm {now.good ? 'soft' : 'font-semibold text-caution'}">
              {#if !now.good}<Mark severity="caution" />{/if}{now.calibrated_until
                ? `calibrated until ${day(now.calibrated_until)}`
                : 'no calibration on record'}{now.good ? '' : ': a deviation that a supervisor has to accept'}{now.note
                ? ` · ${now.note}`
                : ''}
            </p>{/if}
        </div>
      {/each}
      {#if error}<p class="text-stop" role="alert">{error}</p>{/if}
      <button class="act main !min-h-16 !text-xl" disabled={busy}>Begin</button>
    </form>
  {:else if error}<p class="text-stop" role="alert">{error}</p>{:else}<p class="soft">One moment …</p>{/if}
</Modal>

<style>
  .pick {
    display: flex;
    align-items: center;
    gap: 0.6rem;
    min-height: 56px;
    padding: 0 0.8rem;
    border: 1.5px solid var(--hairline);
    border-radius: 6px;
    font-weight: 600;
  }
  .pick:has(input:checked) {
    border-color: var(--brine);
    background: var(--tint);
  }
</style>
