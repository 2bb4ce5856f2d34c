<script lang="ts">
  import { small } from '#lib/figures.ts';
  import { replaceState } from '$app/navigation';
  import { page } from '$app/state';
  import { api, must, sentence, type Problem, type Schemas } from '#lib/api/client.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import WindowGauge from '#lib/parts/WindowGauge/WindowGauge.svelte';
  import WrenchCard from '#lib/parts/WrenchCard/WrenchCard.svelte';
  import { session } from '#lib/session.svelte.ts';
  import { QUESTIONS } from './questions';
  import UseInPlan from './UseInPlan.svelte';

  let table = $state<Schemas['SumOut'][]>([]);
  let texts = $state<Record<string, string>>({});
  let found = $state<Schemas['SumAnswer'] | null>(null);
  let errors = $state<Record<string, string>>({});
  let failed = $state('');
  let stale = $state(false);
  let turn = 0;
  const formula = import('#lib/parts/Working/Formula.svelte');

  api
    .GET('/api/v1/sums')
    .then((answer) => (table = must(answer).items))
    .catch((error: Error) => (failed = error.message));

  const question = $derived(QUESTIONS.find((q) => q.name === page.params.name) ?? QUESTIONS[0]!);
  const sum = $derived(table.find((s) => s.name === question.name));
  const shown = $derived(question.fields.flatMap((name) => sum?.fields.find((f) => f.name === name) ?? []));
  const rest = $derived((sum?.fields ?? []).filter((f) => !question.fields.includes(f.name) && f.kind !== 'flag'));
  /** The torque at the bolt that this sum is about, to be carried into a plan. */
  const carried = $derived.by(() => {
    const figure = found?.figures.find((f) => ['torque_Nm', 'same_clamp_torque_Nm'].includes(f.key));
    if (figure && figure.value !== '–') return figure.value;
    return stale ? '' : ['preload', 'tool'].includes(question.name) ? (texts.torque ?? '') : '';
  });
  const hidden = $derived(
    rest
      .filter((f) => texts[f.name])
      .map((f) => `${f.name} ${texts[f.name]}`)
      .join(', '),
  );

  $effect(() => {
    // the page's own address: it changes with the question, not with what is typed
    const given = Object.fromEntries(page.url.searchParams);
    texts = Object.keys(given).length ? given : { ...question.begin };
    found = null;
  });
  $effect(() => {
    if (sum) void ask(sum, { ...texts });
  });

  async function ask(asked: Schemas['SumOut'], now: Record<string, string>) {
    const own = ++turn;
    stale = true;
    const body: Record<string, string | string[]> = {};
    for (const field of asked.fields) {
      const text = now[field.name]?.trim();
      if (text) body[field.name] = field.repeat ? text.split(/[;\s]+/) : text;
    }
    const { data, error } = await api
      .POST('/api/v1/sums/{name}', { params: { path: { name: asked.name } }, body: { texts: body } })
      .catch(() => ({ data: undefined, error: undefined }));
    if (own !== turn) return;
    if (data) {
      found = data;
      errors = {};
      failed = '';
      stale = false;
    } else {
      const problem = error as Problem | undefined;
      errors = Object.fromEntries((problem?.errors ?? []).filter((e) => e.path).map((e) => [e.path, e.text]));
      failed = Object.keys(errors).length ? '' : sentence(problem);
    }
  }
  function type(name: string, text: string) {
    texts[name] = text;
    const query = new URLSearchParams(Object.entries(texts).filter(([, value]) => value));
    replaceState(`${location.pathname}?${query}`, {});
  }
</script>

{#snippet entry(field: Schemas['SumField'])}
  <QuantityField
    label={field.words}
    value={texts[field.name] ?? ''}
    choices={field.choices.length
      ? [
          ...(field.required ? [] : [['', 'not given'] as [string, string]]),
          ...field.choices.map((c): [string, string] => [c, c.replaceAll('-', ' ')]),
        ]
      : undefined}
    error={errors[field.name] ?? ''}
    onchange={(text) => type(field.name, text)}
  />
{/snippet}

<svelte:head><title>{question.title} · Quick sums · Orthotorq</title></svelte:head>
<div class="grid gap-8 px-6 py-5 md:grid-cols-[190px_minmax(0,340px)_minmax(0,1fr)]">
  <nav aria-label="Quick sums">
    <h2 class="mb-2">Quick sums</h2>
    <ul class="grid gap-[2px]">
      {#each QUESTIONS as q (q.name)}
        <li>
          <a
            href="/sums/{q.name}"
            aria-current={q.name === question.name ? 'page' : undefined}
            class="block border-l-[3px] py-1 pl-3 !no-underline {q.name === question.name
              ? 'border-brine bg-tint font-semibold !text-ink'
              : 'border-transparent !text-ink hover:bg-tint'}">{q.title}</a
          >
        </li>
      {/each}
    </ul>
  </nav>
  <section class="grid content-start gap-3">
    <h1>{question.title}</h1>
    <p class="soft">{sum?.words ?? ''}. Nothing is created; the address keeps what is typed.</p>
    {#each shown as field (field.name)}{@render entry(field)}{/each}
    {#if rest.length}
      <details open={rest.some((field) => errors[field.name])}>
        <summary class="cursor-pointer text-sm text-soft">more{hidden ? `: ${hidden}` : ''}</summary>
        <div class="mt-2 grid gap-3">
          {#each rest as field (field.name)}{@render entry(field)}{/each}
        </div>
      </details>
    {/if}
  </section>
  <section class="min-w-0" aria-live="polite">
    {#if failed}<p class="mb-3 rounded border border-stop bg-stop-bg p-3" role="alert">{failed}</p>{/if}
    {#if found}
      {#if stale}<p class="mb-2 rounded border border-stop bg-stop-bg px-3 py-1 text-sm" role="status">
          Not current: mend the marked field.
        </p>{/if}
      <dl class="sheet grid grid-cols-1 divide-y">
        {#each found.figures as figure (figure.key)}
          <div class="flex flex-wrap items-baseline gap-x-4 px-4 py-2">
            <dt class="soft w-44 shrink-0">{figure.name}</dt>
            <dd class={figure.value.length > 24 ? 'text-lg font-semibold' : 'text-2xl font-bold'}>
              {figure.value} <span class="soft text-base font-normal">{figure.second}</span>
            </dd>
          </div>
        {/each}
      </dl>
      {#if found.gauge}<div class="mt-4 max-w-md">
          <WindowGauge preload={found.gauge.preload} limits={found.gauge.limits} />
        </div>{/if}
      {#if found.card}<div class="mt-4"><WrenchCard setting={found.card} title={small(question.title)} /></div>{/if}
      {#each found.notes as note (note)}<p class="soft mt-2 text-sm">{note}</p>{/each}
      {#if carried && session.has('planner')}<UseInPlan
          torque={carried}
          reason="quick sum: {small(question.title)}, {Object.values(texts).filter(Boolean).join(', ')}"
        />{/if}
      {#if found.steps.length}
        <details class="mt-4">
          <summary class="cursor-pointer font-semibold text-brine">Working</summary>
          {#await formula then { default: Formula }}
            <ol class="mt-2 grid gap-3">
              {#each found.steps as step, i (i)}
                <li class="border-t pt-2">
                  <Formula tex={step.tex} display />
                  <p class="text-sm">
                    {#each step.inputs as input, k (k)}{k ? ', ' : ''}<Formula tex={input.tex} /> = {input.value}{/each}
                  </p>
                  <p class="font-bold">
                    <Formula tex={step.result_tex} /> = {step.result}
                    <span class="soft text-sm font-normal"
                      >{step.result_words}; {step.source}{step.approximation
                        ? `; approximation: ${step.approximation}`
                        : ''}</span
                    >
                  </p>
                </li>
              {/each}
            </ol>
          {/await}
        </details>
      {/if}
    {/if}
  </section>
</div>
