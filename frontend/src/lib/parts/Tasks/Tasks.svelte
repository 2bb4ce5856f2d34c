<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Checkbox from 'flowbite-svelte/Checkbox.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { day as dayOf, whole } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /** What remains to do at a joint: what, who, until when. */
  let { id, run = null }: { id: string; run?: string | null } = $props();
  const asked = new Asked<Schemas['TaskList']>();
  const made = new Asked<unknown>();
  const load = () =>
    asked.ask(() => api.GET('/api/v1/joints/{id}/tasks', { params: { path: { id } } }));
  void load();
  const tasks = $derived(asked.value?.items ?? []);
  const open = $derived(tasks.filter((t) => !t.done_at));
  let adding = $state(false);
  let words = $state('');
  let owner = $state('');
  let day = $state('');
  const uid = $props.id();

  async function add(event: Event) {
    event.preventDefault();
    await made.ask(() =>
      api.POST('/api/v1/joints/{id}/tasks', {
        params: { path: { id } },
        body: { words, owner, day, run },
      }),
    );
    if (made.failed) return;
    adding = false;
    words = '';
    void load();
  }
  async function finish(task: string) {
    await made.ask(() => api.POST('/api/v1/tasks/{id}/done', { params: { path: { id: task } } }));
    void load();
  }
</script>

<section>
  <h2 class="flex justify-between border-b border-ink pb-1">
    <span
      >Tasks {#if open.length}<span class="soft font-normal">{open.length} open</span>{/if}</span
    >
    {#if session.may('rechecking.add_task') && !adding}<Word
        class="text-sm"
        onclick={() => (adding = true)}>Add task</Word
      >{/if}
  </h2>
  <Failure text={asked.failed || made.failed} />
  {#if adding}
    <form class="grid gap-3 py-3 sm:grid-cols-[2fr_1fr_1fr]" onsubmit={add}>
      <div class="grid gap-1">
        <Label for="{uid}-w">What</Label><Input
          id="{uid}-w"
          bind:value={words}
          maxlength={200}
          required
        />
      </div>
      <QuantityField
        label="Who"
        value={owner}
        choices={[
          ['', 'Choose'],
          ...(asked.value?.people ?? []).map((p): [string, string] => [p.id, p.name]),
        ]}
        onchange={(to) => (owner = to)}
      />
      <div class="grid gap-1">
        <Label for="{uid}-d">Until</Label><Input
          id="{uid}-d"
          type="date"
          bind:value={day}
          required
        />
      </div>
      <p class="flex gap-2 sm:col-span-3">
        <Button type="submit" disabled={!words.trim() || !owner || !day}>Add task</Button>
        <Button color="alternative" onclick={() => (adding = false)}>Cancel</Button>
      </p>
    </form>
  {/if}
  <ul>
    {#each tasks as task (task.id)}
      <li class="flex items-start gap-3 border-b py-2 {task.done_at ? 'soft' : ''}">
        <Checkbox
          checked={!!task.done_at}
          disabled={!!task.done_at || !session.may('rechecking.finish_task')}
          aria-label="Done: {task.words}"
          class="mt-1"
          onchange={() => void finish(task.id)}
        />
        <div class="min-w-0 flex-1">
          <p>{task.words}</p>
          <p class="soft text-sm">
            {sentence('task.about', {
              owner: task.owner,
              run: task.run_number ?? 'none',
              person: task.done_by ?? 'none',
              day: task.done_at && dayOf(task.done_at),
            })}
          </p>
        </div>
        {#if !task.done_at}<b
            class="text-sm font-semibold whitespace-nowrap {task.late ? 'text-stop' : ''}"
            >{task.late ? 'overdue since ' : ''}{whole(task.day)}</b
          >{/if}
      </li>
    {:else}<li class="soft py-2">No tasks.</li>{/each}
  </ul>
</section>
