<script lang="ts">
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Fold from '#lib/parts/Fold.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import PullCurve from '#lib/parts/PullCurve/PullCurve.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import { sentence } from '#lib/sentence.ts';

  /**
   * The curves of the pulls, laid over one another per pass or per bolt, with those of the run
   * before behind them.
   */
  let { run, names }: { run: string; names: Record<string, string> } = $props();
  type Trace = Schemas['TraceView'];
  const asked = new Asked<Schemas['TracesView']>();
  $effect(() => {
    const path = { id: run };
    void asked.ask(() => api.GET('/api/v1/runs/{id}/traces', { params: { path } }));
  });
  let by = $state<'pass' | 'bolt'>('pass');
  let chosen = $state('');
  let compared = $state('');
  const at = (trace: Trace) => (trace.position ? `${names[trace.position] ?? ''}, ` : '');
  const keyOf = (trace: Trace) =>
    by === 'pass' ? trace.column : `${trace.position ?? ''}/${trace.place}`;
  const words = (trace: Trace) => at(trace) + (by === 'pass' ? trace.title : `bolt ${trace.label}`);
  const traces = $derived(asked.value?.traces ?? []);
  const sets = $derived([...new Map(traces.map((t) => [keyOf(t), words(t)]))]);
  const set = $derived(sets.some(([key]) => key === chosen) ? chosen : (sets[0]?.[0] ?? ''));
  const shown = $derived(traces.filter((t) => keyOf(t) === set));
  const before = $derived(
    compared ? (asked.value?.before ?? []).filter((t) => keyOf(t) === set) : [],
  );
  const line = (trace: Trace, behind: boolean) => ({
    angle: trace.curve.angle,
    torque: trace.curve.torque,
    bad: !trace.good,
    behind,
  });
  const picture = $derived({
    lines: [...before.map((t) => line(t, true)), ...shown.map((t) => line(t, false))],
    wanted: by === 'pass' ? shown[0]?.wanted_Nm : null,
  });
  const title = $derived(sets.find(([key]) => key === set)?.[1] ?? '');
</script>

{#if traces.length}
  <section class="mt-6">
    <h2 class="border-b border-ink pb-1">Measured pulls</h2>
    <div class="mt-2 grid max-w-2xl grid-cols-3 gap-3">
      <QuantityField
        label="Curves overlaid"
        value={by}
        choices={[
          ['pass', 'all bolts of a pass'],
          ['bolt', 'all pulls of a bolt'],
        ]}
        onchange={(id) => (by = id as 'pass' | 'bolt')}
      />
      <QuantityField label="Which" value={set} choices={sets} onchange={(id) => (chosen = id)} />
      {#if asked.value?.before_run}
        <QuantityField
          label="Behind them"
          value={compared}
          choices={[
            ['', 'nothing'],
            ['before', sentence('record.before', { run: asked.value.before_run })],
          ]}
          onchange={(id) => (compared = id)}
        />
      {/if}
    </div>
    <p class="soft mt-2 text-sm">
      {sentence('record.pulls', { count: shown.length, before: before.length })}
    </p>
    <PullCurve
      {picture}
      label={sentence('record.pulls_label', { title, count: shown.length })}
      class="h-64"
    />
    {#each shown.filter((t) => !t.good) as bad (bad.event)}
      <p class="flex gap-2">
        <Mark severity="stop" />Bolt {bad.label}, {bad.title}: {bad.says} ({bad.seen})
      </p>
    {/each}
    <Fold title="Measured values">
      <ul class="m-0 list-none columns-2 p-0 text-sm">
        {#each shown as trace (trace.event)}
          <li>
            <Sentence
              key="record.pull"
              values={{
                bolt: `bolt ${trace.label}`,
                pass: trace.title,
                result: trace.says,
                seen: trace.seen || 'none',
              }}
            />
          </li>
        {/each}
      </ul>
    </Fold>
  </section>
{/if}
