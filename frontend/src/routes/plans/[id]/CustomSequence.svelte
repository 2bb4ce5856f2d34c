<script lang="ts">
  import { untrack } from 'svelte';
  import Button from 'flowbite-svelte/Button.svelte';
  import Checkbox from 'flowbite-svelte/Checkbox.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import Textarea from 'flowbite-svelte/Textarea.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Boxes from '#lib/parts/Form/Boxes.svelte';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import type { Pass, Stage } from '#lib/plan.ts';
  import { sentence } from '#lib/sentence.ts';
  import Measures from './Measures.svelte';

  /**
   * A maker's own order: typed, pasted or pressed on the drawing, for one pass or for several at
   * once.
   */
  interface Props {
    bench: Bench;
    stage: Stage;
    one?: Pass;
    /** Groups of the stage. */
    groups: string[];
    onclose: () => void;
  }
  let { bench, stage, one, groups, onclose }: Props = $props();
  let open = $state(true);
  const known = $derived((bench.result?.groups ?? []).filter((g) => groups.includes(g.id)));
  let chosen = $state(untrack(() => groups[0] ?? ''));
  const group = $derived(known.find((g) => g.id === chosen));
  const labels = $derived(new Map((group?.places ?? []).map((p) => [p.id, p.label])));
  const computed = $derived(bench.result?.stages.find((s) => s.id === stage.id)?.passes ?? []);
  /** The order that is there now, as its bolts are painted. */
  const now = $derived(
    computed
      .find((p) => p.group === chosen && (!one || p.id === one.id))
      ?.order.flat()
      .map((place) => labels.get(place) ?? '')
      .join(' ') ?? '',
  );
  const kept = untrack(() => one ?? stage) as { order?: { kind?: string; repeats?: boolean } };
  const was = kept.order?.kind === 'custom';
  let text = $state(untrack(() => (was ? now : '')));
  let repeats = $state(was && !!kept.order?.repeats);
  const passes = $derived(
    one
      ? computed
          .filter((p) => p.group === chosen && p.order.length)
          .map((p): [string, string] => [p.id, p.name])
      : [],
  );
  let used = $state(untrack(() => (one ? [one.id] : [])));
  const read = new Asked<Schemas['SequenceOut']>();
  $effect(() => {
    const body = { group: chosen, text, repeats };
    if (!chosen) return;
    untrack(
      () =>
        void read.ask(() =>
          api.POST('/api/v1/sequences', {
            body: { document: $state.snapshot(bench.doc), ...body },
          }),
        ),
    );
  });
  const found = $derived(read.value);
  const looks = $derived(
    Object.fromEntries((found?.places ?? []).map((p) => [p, { state: 'full', percent: 100 }])),
  );
  const uid = $props.id();
  // work begins in the text: what is typed goes on there
  $effect(() => document.getElementById(`${uid}-s`)?.focus());

  const press = (place: string) => (text = `${text.trim()} ${labels.get(place) ?? ''}`.trim());
  const back = () => (text = text.trim().replace(/\S+$/, '').trim());
  async function save() {
    const params = {
      stage: stage.id,
      group: chosen,
      text,
      passes: used.join(','),
      repeats: repeats ? 'yes' : '',
    };
    await bench.act('set_sequence', params, true);
    open = false;
  }
</script>

<Modal bind:open title="Custom sequence" size="lg" {onclose}>
  <div class="grid grid-cols-[minmax(0,1fr)] gap-6 md:grid-cols-[minmax(0,380px)_1fr]">
    <div class="grid content-start gap-2">
      {#if group}
        <div class="mx-auto aspect-square w-full max-w-[380px]">
          <JointFace
            places={group.places}
            acrossFlats={group.thread.head_mm}
            {looks}
            next={found?.places.slice(-1) ?? []}
            path={found?.places ?? []}
            onpress={press}
            label={sentence('bench.press_order', { group: group.name })}
          />
        </div>
      {/if}
      <p class="flex flex-wrap gap-x-4">
        <Word onclick={back} disabled={!text.trim()}>Remove last</Word>
        <Word onclick={() => (text = '')} disabled={!text.trim()}>Clear</Word>
        {#if now}<Word onclick={() => (text = now)}>Use current order</Word>{/if}
      </p>
    </div>
    <form
      class="grid content-start gap-3"
      onsubmit={(event) => {
        event.preventDefault();
        if (found?.whole) void save();
      }}
    >
      {#if known.length > 1}
        <QuantityField
          label="Bolts"
          value={chosen}
          choices={known.map((g): [string, string] => [g.id, g.name])}
          onchange={(to) => {
            chosen = to;
            text = '';
          }}
        />
      {/if}
      <div>
        <Label for="{uid}-s"
          >Bolt numbers in order; ranges as 1-4, or press bolts in the drawing</Label
        >
        <Textarea
          id="{uid}-s"
          class="w-full"
          rows={4}
          maxlength={8000}
          bind:value={text}
          placeholder="1 5 3 7 2 6 4 8"
        />
      </div>
      <p aria-live="polite" class={found && !found.whole && text.trim() ? 'text-caution' : ''}>
        {found?.says ?? ''}
      </p>
      {#if found?.other}
        <p class="text-caution">
          A pair such as 1-4 can be a range or two bolts.
          <Word onclick={() => (text = found?.other ?? text)}
            >{sentence('bench.read_pairs', { sequence: found.other })}</Word
          >
        </p>
      {/if}
      {#if found?.whole && found.stray != null && found.gap != null}
        <Measures stray={found.stray} gap={found.gap} />
      {/if}
      <Checkbox bind:checked={repeats}>Bolts repeat on purpose</Checkbox>
      {#if passes.length > 1}
        <Boxes
          legend="Passes with this sequence"
          choices={passes}
          chosen={used}
          onchange={(to) => (used = to)}
        />
      {/if}
      <Failure text={read.failed} />
      <div class="flex gap-2">
        <Button type="submit" disabled={!found?.whole || read.busy || (!!one && !used.length)}
          >Save</Button
        >
        <Button color="alternative" onclick={() => (open = false)}>Cancel</Button>
      </div>
    </form>
  </div>
</Modal>
