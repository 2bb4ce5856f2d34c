<script lang="ts">
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { session } from '#lib/session.svelte.ts';
  import { uuid7 } from '#lib/offline/device.ts';
  import { deviceOf } from '#lib/offline/outbox.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Fold from '#lib/parts/Fold.svelte';
  import Picks from './Picks.svelte';
  import ToolPick from './ToolPick.svelte';

  /** What is chosen before a run: occasion, variants, history, tools by serial. The server says what there is to choose. */
  let { revision, first = '', onclose }: { revision: string; first?: string; onclose: () => void } = $props();
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
  let serials = $state<Record<string, string>>({});

  $effect(() => {
    if (!open) onclose();
  });
  /** Ask what is to be chosen, with what is chosen so far. */
  async function ask() {
    const query = { occasion, variants: Object.values(variants).join(',') };
    const found = await asked.ask(() => api.GET('/api/v1/revisions/{id}/start', { params: { path: { id: revision }, query } }));
    if (!found) return;
    occasion = found.occasion;
    if (!found.histories.some((h) => h.value === history)) history = found.histories[0]!.value;
    variants = Object.fromEntries(found.choices.map((c) => [c.name, c.taken]));
    for (const tool of found.tools) serials[tool.id] ??= tool.usual;
  }
  untrack(() => void ask());

  async function start(event: Event) {
    event.preventDefault();
    const tools = Object.fromEntries(view!.tools.filter((t) => serials[t.id]).map((t) => [t.id, serials[t.id]!]));
    const body = {
      revision,
      device: await deviceOf(session.person?.id ?? ''),
      occasion,
      history,
      variants: Object.values(variants),
      tools,
      makeshift,
      run: own,
    };
    const run = await started.ask(() => api.POST('/api/v1/runs', { body }));
    if (run) await goto(`/runs/${run.id}`);
  }
</script>

<Modal bind:open title="Start a run" size="md">
  {#if view}
    <form class="grid gap-4" onsubmit={start}>
      <p class={view.due ? 'font-semibold text-caution' : 'soft'}>By its record: {view.standing}.</p>
      {#if view.before.length}<p class="soft">Before this: {view.before.join('; ')}</p>{/if}
      {#if view.occasions.length > 1}
        <Picks legend="What is done" options={view.occasions} chosen={occasion} onchoose={(o) => ((occasion = o), void ask())} />
      {/if}
      {#each view.choices as choice (choice.name)}
        <Picks
          legend={choice.name}
          options={choice.options}
          chosen={variants[choice.name] ?? choice.taken}
          onchoose={(v) => ((variants[choice.name] = v), void ask())}
        />
      {/each}
      <Picks legend="History of these bolts" options={view.histories} chosen={history} onchoose={(h) => (history = h)} />
      {#each view.tools as tool (tool.id)}
        <ToolPick {tool} serial={serials[tool.id] ?? ''} onchoose={(serial) => (serials[tool.id] = serial)} />
      {/each}
      <Label class="grid gap-1 text-sm text-soft">
        A part that is not the right one (a spare of another make, borrowed): what it is
        <Input bind:value={makeshift} maxlength={200} class="min-h-[56px] text-base" placeholder="none" autocomplete="off" />
      </Label>
      {#if view.kit.length}
        <Fold title="To take along" more="· {view.kit.length}, for what is chosen here">
          <ul class="text-base">
            {#each view.kit as line, i (i)}<li class="border-t py-1">
                {line.count > 1 ? `${line.count} × ` : ''}{line.text}
              </li>{/each}
          </ul>
        </Fold>
      {/if}
      <Failure text={asked.failed || started.failed} />
      <Button type="submit" class="min-h-[64px] text-xl" disabled={started.busy}>Begin</Button>
    </form>
  {:else if asked.failed}<Failure text={asked.failed} />{:else}<p class="soft">One moment …</p>{/if}
</Modal>
