<script lang="ts">
  import { api, sentence, type Problem, type Schemas } from '#lib/api/client.ts';
  import { day } from '#lib/figures.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { session } from '#lib/session.svelte.ts';

  /** Own entries, kept apart from the shipped ones; a plan that uses one embeds a copy. */
  let { own, onchange }: { own: Schemas['OwnList'] | null; onchange: () => void } = $props();
  let kind = $state<'lubricant' | 'grade' | 'material'>('lubricant');
  let texts = $state<Record<string, string>>({});
  let errors = $state<Record<string, string>>({});
  let failed = $state('');
  const may = $derived(session.has('planner'));
  const FIELDS: Record<string, [string, string, string][]> = {
    lubricant: [
      ['name', 'Name', 'White paste'],
      ['mu_thread', 'Thread friction, low typical high', '0.10 0.12 0.14'],
      ['mu_bearing', 'Bearing friction', 'as the thread'],
      ['source', 'Where it comes from', 'maker’s sheet, measured'],
    ],
    grade: [
      ['yield_strength', 'Yield', '640 MPa'],
      ['tensile', 'Tensile', '800 MPa'],
      ['proof', 'Proof', 'none'],
      ['source', 'Where it comes from', 'certificate'],
    ],
    material: [
      ['modulus', 'Modulus', '205 GPa'],
      ['tensile', 'Tensile', '490 MPa'],
      ['shear', 'Shear', '0.6 of tensile'],
      ['bearing', 'Pressure it bears', 'as tensile'],
      ['source', 'Where it comes from', 'sheet'],
    ],
  };

  function body(): Record<string, unknown> {
    const out: Record<string, unknown> = {};
    for (const [name] of FIELDS[kind]!) {
      const text = texts[name]?.trim();
      if (!text) continue;
      out[name] = name.startsWith('mu_') ? text.split(/[\s;]+/).map((t) => (Number.isFinite(Number(t)) ? Number(t) : t)) : text;
    }
    return out;
  }
  async function keep(event: Event) {
    event.preventDefault();
    const { data, error } = await api.POST('/api/v1/own-entries', { body: { kind, key: texts.key ?? '', body: body() } });
    const problem = error as Problem | undefined;
    errors = Object.fromEntries((problem?.errors ?? []).map((e) => [e.path.replace('body/', '').split('/')[0]!, e.text]));
    failed = data || Object.keys(errors).length ? '' : sentence(problem);
    if (data) {
      texts = {};
      onchange();
    }
  }
  async function drop(id: string) {
    await api.DELETE('/api/v1/own-entries/{id}', { params: { path: { id } } });
    onchange();
  }
</script>

<h1>Own entries</h1>
<p class="soft mb-3">
  Kept apart from the shipped tables. A plan that uses one holds a copy, so that released plans do not change.
</p>
{#each own?.items ?? [] as one (one.id)}
  <div class="flex flex-wrap items-baseline gap-x-4 border-b py-2">
    <b>{one.key}</b><span class="soft">{one.kind}</span>
    <span class="flex-1"
      >{Object.entries(one.body as Record<string, unknown>)
        .map(([k, v]) => `${k.replaceAll('_', ' ')} ${Array.isArray(v) ? v.join(' – ') : v}`)
        .join(' · ')}</span
    >
    <span class="soft text-sm">{one.person}, {day(one.at)}{own?.in_store.includes(one.key) ? ' · in store' : ''}</span>
    {#if may}<button class="link text-sm" aria-label="Take {one.key} off the list" onclick={() => drop(one.id)}>take off</button
      >{/if}
  </div>
{:else}<p class="soft">
    None yet{may ? ': enter what the maker’s sheet of your compound says, or what was measured here' : ''}.
  </p>{/each}
{#if may}
  <form class="mt-5 grid max-w-xl gap-2" onsubmit={keep}>
    <h2>New entry</h2>
    <div class="grid grid-cols-2 gap-2">
      <QuantityField
        label="Kind"
        value={kind}
        choices={[
          ['lubricant', 'friction condition'],
          ['grade', 'grade'],
          ['material', 'part material'],
        ]}
        onchange={(t) => ((kind = t as typeof kind), (texts = {}), (errors = {}))}
      />
      <QuantityField
        label="Short name"
        value={texts.key ?? ''}
        example="white-paste"
        error={errors.key ?? ''}
        onchange={(t) => (texts.key = t)}
      />
      {#each FIELDS[kind]! as [name, words, example] (name)}
        <QuantityField
          label={words}
          value={texts[name] ?? ''}
          {example}
          error={errors[name] ?? ''}
          onchange={(t) => (texts[name] = t)}
        />
      {/each}
    </div>
    {#if failed}<p class="text-stop" role="alert">{failed}</p>{/if}
    <button class="act justify-self-start">Keep</button>
  </form>
{/if}
