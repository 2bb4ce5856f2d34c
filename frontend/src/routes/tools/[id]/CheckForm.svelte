<script lang="ts">
  import { untrack } from 'svelte';
  import Button from 'flowbite-svelte/Button.svelte';
  import { api, problemText, type Problem, type Schemas } from '#lib/api/client.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';

  /** A check against a tester or a better wrench: settings with what the reference showed. */
  interface Props {
    detail: Schemas['ToolDetail'];
    onclose: () => void;
    onkept: () => Promise<void>;
  }
  let { detail, onclose, onkept }: Props = $props();
  let points = $state(untrack(() => detail.check_at.map((setting) => ({ setting, readings: '' }))));
  let texts = $state<Record<string, string>>({
    reference: '',
    uncertainty: '',
    certificate: '',
    note: '',
  });
  let errors = $state<Record<string, string>>({});
  let failed = $state('');
  let kept = $state.raw<Schemas['CheckView'] | null>(null);

  async function keep(event: Event) {
    event.preventDefault();
    const body = {
      points: points.filter((p) => p.readings.trim() || points.length === 1),
      reference: texts.reference ?? '',
      uncertainty: texts.uncertainty ?? '',
      certificate: texts.certificate ?? '',
      note: texts.note ?? '',
    };
    const { data, error } = await api
      .POST('/api/v1/tools/{id}/checks', { params: { path: { id: detail.tool.id } }, body })
      .catch(() => ({ data: undefined, error: {} as Problem }));
    errors = Object.fromEntries(
      ((error as Problem | undefined)?.errors ?? []).map((e) => [e.path, e.text]),
    );
    failed = error && !Object.keys(errors).length ? problemText(error) : '';
    if (!data) return;
    kept = data;
    await onkept();
  }
  /** What the simulated tester shows at a setting; a real one is typed. */
  async function read(i: number) {
    const { data, error } = await api
      .POST('/api/v1/tools/{id}/tester-readings', {
        params: { path: { id: detail.tool.id } },
        body: { setting: points[i]!.setting },
      })
      .catch(() => ({ data: undefined, error: {} as Problem }));
    failed = error ? problemText(error) : '';
    if (data) points[i]!.readings = data.readings;
  }
  /** Where a point that is sent stands in the form: those without readings are not sent. */
  const at = (i: number) =>
    points.slice(0, i).filter((p) => p.readings.trim() || points.length === 1).length;
</script>

<form class="sheet mb-6 grid gap-3 p-4" onsubmit={keep} aria-label="Check {detail.tool.serial}">
  {#if kept}
    <Notice severity={kept.verdict === 'fail' ? 'stop' : 'caution'} role="status">
      <b>{detail.tool.serial} {kept.words}.</b>
      {#if kept.verdict === 'fail'}Bolts tightened with it since its last good check are listed
        below.{/if}
    </Notice>
    <div><Button color="alternative" onclick={onclose}>Close</Button></div>
  {:else}
    <p class="font-bold">{sentence('tool.check_in', { limit: detail.limit_words })}</p>
    <p class="soft text-sm">
      Load it a few times at the highest setting first. Over the whole range, with three readings at
      each setting, a check that passes starts a new interval. Enter readings in one line, separated
      by semicolons.
    </p>
    {#each points as point, i (i)}
      <div class="grid gap-3 sm:grid-cols-[160px_1fr_auto]">
        <QuantityField
          label="Set to"
          value={point.setting}
          error={errors[`points/${at(i)}/setting`]}
          onchange={(text) => (point.setting = text)}
        />
        <QuantityField
          label="Reference readings"
          value={point.readings}
          example="198.2; 199.0; 197.6"
          error={errors[`points/${at(i)}/readings`]}
          onchange={(text) => (point.readings = text)}
        />
        <span class="flex gap-3 self-center">
          <Word
            label={sentence('tool.read_tester', { setting: point.setting })}
            onclick={() => void read(i)}>Read tester</Word
          >
          <Word label="Remove {point.setting}" onclick={() => points.splice(i, 1)}>Remove</Word>
        </span>
      </div>
    {/each}
    <p><Word onclick={() => points.push({ setting: '', readings: '' })}>Add setting</Word></p>
    <div class="grid gap-3 sm:grid-cols-2">
      <QuantityField
        label="Checked against"
        note="serial of a tester, or another wrench"
        value={texts.reference!}
        error={errors.reference}
        onchange={(text) => (texts.reference = text)}
      />
      <QuantityField
        label="Uncertainty of the reference"
        note="from the register where it is a tester of ours"
        value={texts.uncertainty!}
        example="0.5 %"
        error={errors.uncertainty}
        onchange={(text) => (texts.uncertainty = text)}
      />
      <QuantityField
        label="Certificate"
        value={texts.certificate!}
        example="none"
        onchange={(text) => (texts.certificate = text)}
      />
      <QuantityField
        label="Note"
        value={texts.note!}
        example="none"
        onchange={(text) => (texts.note = text)}
      />
    </div>
    <Failure text={failed || (errors.points ?? '')} />
    <div class="flex gap-2">
      <Button type="submit">Save check</Button>
      <Button color="alternative" onclick={onclose}>Cancel</Button>
    </div>
  {/if}
</form>
