<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import { api, CONFIRMED, problemText, type Problem, type Schemas } from '#lib/api/client.ts';
  import { atDecimal, clock, day, digits } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import TimeChart from '#lib/parts/TimeChart/TimeChart.svelte';
  import type { TimeData } from '#lib/parts/TimeChart/draw.ts';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /**
   * One meter: its last reading, how fast it runs, a new reading, and the readings as chart and
   * table.
   */
  interface Props {
    meter: Schemas['MeterView'];
    hows: Schemas['HowChoice'][];
    onchange: () => void;
  }
  let { meter, hows, onchange }: Props = $props();
  type Reading = Schemas['ReadingView'];
  let texts = $state<Record<string, string>>({ value: '', how: 'reading', before: '', at: '' });
  let errors = $state<Record<string, string>>({});
  let failed = $state('');
  const BEFORE: Record<string, string> = {
    reset: 'Reading before the reset',
    replaced: 'Last reading of the old meter',
    rolled_over: 'Rolls over after',
  };
  const chart = $derived.by<TimeData>(() => {
    const counted = meter.readings.filter((one) => !one.struck).toReversed();
    return {
      times: counted.map((one) => one.at),
      series: [{ values: counted.map((one) => one.total ?? null), look: 'line' }],
      label: (value) => digits(value),
    };
  });

  function said(problem: Problem) {
    errors = Object.fromEntries((problem.errors ?? []).map((e) => [e.path, e.text]));
    failed = Object.keys(errors).length ? '' : problemText(problem);
  }
  /** The server has asked whether a reading is meant. */
  let asked = $state(false);
  async function keep(event: Event) {
    event.preventDefault();
    const headers = asked ? CONFIRMED : {};
    const body = {
      value: texts.value!,
      how: texts.how!,
      before: texts.how === 'reading' ? '' : texts.before!,
      at: texts.at!,
    };
    const { error } = await api
      .POST('/api/v1/meters/{id}/readings', { params: { path: { id: meter.id } }, body, headers })
      .catch(() => ({ error: {} as Problem }));
    asked = (error as Problem | undefined)?.code === 'confirm';
    if (error) return said(error as Problem);
    errors = {};
    texts = { value: '', how: 'reading', before: '', at: '' };
    onchange();
  }
  async function withdraw(id: string) {
    const { error } = await api
      .DELETE('/api/v1/meter-readings/{id}', { params: { path: { id } } })
      .catch(() => ({ error: {} as Problem }));
    if (error) said(error as Problem);
    else onchange();
  }
  /** The reading that is corrected, and the right figure as typed. */
  let wrong = $state<Reading | null>(null);
  let right = $state('');
  let refused = $state('');
  async function correct(event: Event) {
    event.preventDefault();
    const { error } = await api
      .POST('/api/v1/meter-readings/{id}/correction', {
        params: { path: { id: wrong!.id } },
        body: { value: right },
      })
      .catch(() => ({ error: {} as Problem }));
    if (error) {
      refused = (error as Problem).errors?.[0]?.text ?? problemText(error as Problem);
      return;
    }
    wrong = null;
    onchange();
  }
  const shown = $derived(atDecimal(meter.readings.map((one) => one.shown)));
  const gained = $derived(atDecimal(meter.readings.map((one) => one.gained)));
</script>

<section class="mt-2 mb-8 grid gap-x-10 gap-y-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.25fr)]">
  <div class="min-w-0">
    <h2 class="border-b border-ink pb-1">
      {meter.name} <span class="soft font-normal">{meter.stands}</span>
    </h2>
    <p class="soft my-1">{meter.rate || 'No forecast yet.'}</p>
    {#if chart.times.length > 1}
      <TimeChart
        data={chart}
        label={sentence('meter.chart', { unit: meter.unit, rate: meter.rate })}
      />
      <p class="soft text-sm">{sentence('meter.counted', { unit: meter.unit })}</p>
    {/if}
    {#if session.may('rechecking.add_reading')}
      <form
        class="mt-4 grid items-start gap-3 py-2 sm:grid-cols-2"
        onsubmit={keep}
        aria-label="Reading of {meter.name}"
      >
        <QuantityField
          label="Reading, {meter.unit}"
          value={texts.value!}
          error={errors.value}
          onchange={(t) => ((texts.value = t), (asked = false))}
        />
        <QuantityField
          label="Kind of reading"
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
          label="Read at"
          note={sentence('meter.time', { place: session.place })}
          value={texts.at!}
          example="now, or 2028-02-29 07:30"
          error={errors.at}
          onchange={(t) => (texts.at = t)}
        />
        <Button type="submit" class="justify-self-start sm:col-span-2"
          >{asked ? 'Confirm and save' : 'Save reading'}</Button
        >
      </form>
    {/if}
    <Failure text={failed} />
  </div>
  <div class="min-w-0 overflow-x-auto">
    <Table border={false} class="w-full">
      <TableHead>
        {#each ['Read', 'Reading', 'Since the last', 'By', ''] as words, i (i)}<TableHeadCell
            >{words}</TableHeadCell
          >{/each}
      </TableHead>
      <TableBody>
        {#each meter.readings as one, i (one.id)}
          <TableBodyRow class={one.struck ? 'soft' : ''}>
            <TableBodyCell class="whitespace-nowrap">{day(one.at)}, {clock(one.at)}</TableBodyCell>
            <TableBodyCell class="whitespace-nowrap {one.struck ? 'line-through' : 'font-semibold'}"
              >{shown[i]}</TableBodyCell
            >
            <TableBodyCell class="whitespace-nowrap">{gained[i]}</TableBodyCell>
            <TableBodyCell
              >{sentence('meter.entered_by', {
                person: one.person,
                how: one.how ? one.how.toLowerCase() : 'none',
                withdrawn: one.struck ? one.struck_by : 'none',
              })}</TableBodyCell
            >
            <TableBodyCell class="text-right whitespace-nowrap">
              {#if !one.struck && session.may('rechecking.correct_reading')}
                <Word
                  class="mr-3"
                  label="Correct {one.shown} of {day(one.at)}"
                  onclick={() => ((wrong = one), (right = ''), (refused = ''))}>Correct …</Word
                >
                <Word label="Withdraw {one.shown} of {day(one.at)}" onclick={() => withdraw(one.id)}
                  >Withdraw</Word
                >
              {/if}
            </TableBodyCell>
          </TableBodyRow>
        {:else}
          <TableBodyRow
            ><TableBodyCell colspan={5} class="soft">No reading yet.</TableBodyCell></TableBodyRow
          >
        {/each}
      </TableBody>
    </Table>
  </div>
</section>
{#if wrong}
  <Modal
    open
    title={sentence('meter.correct', { day: day(wrong.at) })}
    size="sm"
    onclose={() => (wrong = null)}
  >
    <form class="grid gap-3" onsubmit={correct}>
      <p>{sentence('meter.correcting', { shown: wrong.shown })}</p>
      <QuantityField
        label={sentence('meter.right', { unit: meter.unit })}
        value={right}
        error={refused}
        onchange={(t) => (right = t)}
      />
      <div class="flex gap-2">
        <Button type="submit" disabled={!right}>Save correction</Button>
        <Button color="alternative" onclick={() => (wrong = null)}>Cancel</Button>
      </div>
    </form>
  </Modal>
{/if}
