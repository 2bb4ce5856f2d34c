<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { api, sentence, type Problem, type Schemas } from '#lib/api/client.ts';
  import { clock, day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { session } from '#lib/session.svelte.ts';

  /** One meter: where it stands, how fast it runs, a new reading, and the last ones. */
  interface Props {
    meter: Schemas['MeterView'];
    hows: Schemas['HowChoice'][];
    onchange: () => void;
  }
  let { meter, hows, onchange }: Props = $props();
  let texts = $state<Record<string, string>>({ value: '', how: 'reading', before: '', at: '' });
  let errors = $state<Record<string, string>>({});
  let failed = $state('');
  const BEFORE: Record<string, string> = {
    reset: 'It showed before',
    replaced: 'The old one showed at its end',
    rolled_over: 'It begins again at 0 after',
  };

  function said(problem: Problem) {
    errors = Object.fromEntries((problem.errors ?? []).map((e) => [e.path, e.text]));
    failed = Object.keys(errors).length ? '' : sentence(problem);
  }
  async function keep(event: Event) {
    event.preventDefault();
    const body = { value: texts.value!, how: texts.how!, before: texts.how === 'reading' ? '' : texts.before!, at: texts.at! };
    const { error } = await api
      .POST('/api/v1/meters/{id}/readings', { params: { path: { id: meter.id } }, body })
      .catch(() => ({ error: {} as Problem }));
    if (error) return said(error as Problem);
    errors = {};
    texts = { value: '', how: 'reading', before: '', at: '' };
    onchange();
  }
  async function strike(id: string) {
    const { error } = await api
      .DELETE('/api/v1/meter-readings/{id}', { params: { path: { id } } })
      .catch(() => ({ error: {} as Problem }));
    if (error) said(error as Problem);
    else onchange();
  }
</script>

<section class="mt-6">
  <h2 class="border-b border-ink pb-1">{meter.name}: {meter.stands}</h2>
  <p class="soft my-1">{meter.rate || 'no forecast yet'}</p>
  {#if session.may('rechecking.add_reading')}
    <form class="grid items-start gap-3 py-2 sm:grid-cols-4" onsubmit={keep} aria-label="Reading of {meter.name}">
      <QuantityField
        label="It shows, {meter.unit}"
        value={texts.value!}
        error={errors.value}
        onchange={(t) => (texts.value = t)}
      />
      <QuantityField
        label="It"
        value={texts.how!}
        choices={hows.map((one): [string, string] => [one.value, one.words])}
        error={errors.how}
        onchange={(t) => (texts.how = t)}
      />
      {#if texts.how !== 'reading'}<QuantityField
          label={BEFORE[texts.how!] ?? 'Before'}
          note={meter.unit}
          value={texts.before!}
          error={errors.before}
          onchange={(t) => (texts.before = t)}
        />{/if}
      <QuantityField
        label="Read"
        note="UTC"
        value={texts.at!}
        example="now, or 2028-02-29 07:30"
        error={errors.at}
        onchange={(t) => (texts.at = t)}
      />
      <Button type="submit" class="mt-4 justify-self-start">Keep it</Button>
    </form>
  {/if}
  <Failure text={failed} />
  <ul>
    {#each meter.readings as one (one.id)}
      <li class="flex flex-wrap items-baseline justify-between gap-x-4 border-b py-1 {one.struck ? 'soft line-through' : ''}">
        <span><b class="font-semibold">{one.shown}</b> {one.how} <span class="soft">{one.gained}</span></span>
        <span class="soft text-sm"
          >{day(one.at)}
          {clock(one.at)}, {one.person}{one.source === 'typed' ? '' : `, ${one.source}`}
          {#if !one.struck && session.may('rechecking.strike_reading')}<Word
              class="ml-2"
              label="Strike out {one.shown} of {day(one.at)}"
              onclick={() => strike(one.id)}>strike out</Word
            >{/if}</span
        >
      </li>
    {/each}
  </ul>
</section>
