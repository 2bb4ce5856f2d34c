<script lang="ts">
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { api, CONFIRMED, problemText, type Problem, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';
  import { uuid7 } from '#lib/offline/device.ts';
  import { deviceOf } from '#lib/offline/outbox.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Fold from '#lib/parts/Fold.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import Picks from './Picks.svelte';
  import ToolPick from './ToolPick.svelte';

  /**
   * What is chosen before a run: occasion, variants, history, tools by serial. The server says what
   * there is to choose.
   */
  let {
    revision,
    first = '',
    onclose,
  }: { revision: string; first?: string; onclose: () => void } = $props();
  let open = $state(true);
  const asked = new Asked<Schemas['StartView']>();
  const started = new Asked<Schemas['Created']>();
  /** The run's own id: a start that is sent again begins no second run. */
  const own = uuid7();
  const view = $derived(asked.value);
  let occasion = $state(untrack(() => first));
  let history = $state('');
  let variants = $state<Record<string, string>>({});
  let makeshift = $state('');
  let position = $state('');
  let serials = $state<Record<string, string>>({});

  $effect(() => {
    if (!open) onclose();
  });
  /** Ask what is to be chosen, with what is chosen so far. */
  async function ask() {
    const query = { occasion, variants: Object.values(variants).join(',') };
    const found = await asked.ask(() =>
      api.GET('/api/v1/revisions/{id}/start', { params: { path: { id: revision }, query } }),
    );
    if (!found) return;
    occasion = found.occasion;
    if (!found.histories.some((h) => h.value === history)) history = found.histories[0]!.value;
    variants = Object.fromEntries(found.choices.map((c) => [c.name, c.taken]));
    for (const tool of found.tools) serials[tool.id] ??= tool.usual;
  }
  untrack(() => void ask());

  let reading = $state('');
  let meant = $state(false);
  let unread = $state('');
  /** The reading of the meter first: a run is not started where it is refused or asked back. */
  async function readMeter(): Promise<boolean> {
    if (!view?.meter || !reading.trim()) return true;
    const params = { path: { id: view.meter.value } };
    const answer = await api
      .POST('/api/v1/meters/{id}/readings', {
        params,
        body: { value: reading },
        headers: meant ? CONFIRMED : {},
      })
      .catch(() => ({ error: {} as Problem }));
    const problem = answer.error as Problem | undefined;
    meant = problem?.code === 'confirm';
    unread = problem ? (problem.errors?.[0]?.text ?? problemText(problem)) : '';
    if (!problem) reading = '';
    return !problem;
  }
  async function start(event: Event) {
    event.preventDefault();
    if (!(await readMeter())) return;
    const tools = Object.fromEntries(
      view!.tools.filter((t) => serials[t.id]).map((t) => [t.id, serials[t.id]!]),
    );
    const body = {
      revision,
      device: await deviceOf(session.person?.id ?? ''),
      occasion,
      history,
      variants: Object.values(variants),
      tools,
      makeshift,
      positions: position ? [position] : [],
      run: own,
    };
    const run = await started.ask(() => api.POST('/api/v1/runs', { body }));
    if (run) await goto(`/runs/${run.id}`);
  }
</script>

<Modal bind:open title="Start a run" size="md">
  {#if view}
    <form class="grid gap-4" onsubmit={start}>
      {#if view.going}
        <Notice role="status">
          <p class="mb-2"><b>In progress on this joint:</b> {view.going.words}.</p>
          <Button href="/runs/{view.going.value}" class="min-h-[56px] w-full"
            >Continue this run</Button
          >
        </Notice>
      {/if}
      <p class={view.due ? 'font-semibold text-caution' : 'soft'}>Condition: {view.condition}</p>
      {#if view.before.length}<p class="soft">
          {sentence('run.before_this', { tasks: view.before.join('; ') })}
        </p>{/if}
      {#if view.occasions.length > 1}
        <Picks
          legend="What is done"
          options={view.occasions}
          chosen={occasion}
          onchoose={(o) => ((occasion = o), void ask())}
        />
      {/if}
      {#each view.choices as choice (choice.name)}
        <Picks
          legend={choice.name}
          options={choice.options}
          chosen={variants[choice.name] ?? choice.taken}
          onchoose={(v) => ((variants[choice.name] = v), void ask())}
        />
      {/each}
      {#if view.positions.length}
        <Picks
          legend="Positions"
          options={[
            { value: '', words: 'all of them' },
            ...view.positions.map((p) => ({ ...p, words: `${p.words} only` })),
          ]}
          chosen={position}
          onchoose={(p) => (position = p)}
        />
      {/if}
      <Picks
        legend="History of these bolts"
        options={view.histories}
        chosen={history}
        onchoose={(h) => (history = h)}
      />
      {#each view.tools as tool (tool.id)}
        <ToolPick
          {tool}
          serial={serials[tool.id] ?? ''}
          onchoose={(serial) => (serials[tool.id] = serial)}
        />
      {/each}
      <Label class="grid gap-1 text-sm text-soft">
        A part that is not the right one (a spare of another make, borrowed): what it is
        <Input
          bind:value={makeshift}
          maxlength={200}
          class="min-h-[56px] text-base"
          placeholder="none"
          autocomplete="off"
        />
      </Label>
      {#if view.meter && session.may('rechecking.add_reading')}
        <div class="grid gap-1">
          <Label class="grid gap-1 text-sm text-soft">
            {sentence('meter.now', { meter: view.meter.words })}
            <Input
              bind:value={reading}
              maxlength={40}
              inputmode="decimal"
              class="min-h-[56px] text-base"
              placeholder="not read"
              autocomplete="off"
              oninput={() => (meant = false)}
            />
          </Label>
          <Failure text={unread} />
        </div>
      {/if}
      {#if view.kit.length}
        <Fold title="Kit" more={sentence('run.kit', { count: view.kit.length })}>
          <ul class="text-base">
            {#each view.kit as line, i (i)}<li class="border-t py-1">
                {line.count > 1 ? `${line.count} × ` : ''}{line.text}
              </li>{/each}
          </ul>
        </Fold>
      {/if}
      <Failure text={asked.failed || started.failed} />
      <Button type="submit" class="min-h-[64px] text-xl" disabled={started.busy}
        >{meant ? 'Confirm reading, start run' : 'Start run'}</Button
      >
    </form>
  {:else if asked.failed}<Failure text={asked.failed} />{:else}<p class="soft">One moment …</p>{/if}
</Modal>
