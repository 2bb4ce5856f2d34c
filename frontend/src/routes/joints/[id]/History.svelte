<script lang="ts">
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { clock, day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import { sentence } from '#lib/sentence.ts';
  import Note from './Note.svelte';

  /** Everything on record of a joint on one line of time, newest first. */
  let { id, onreplaced }: { id: string; onreplaced: () => void } = $props();
  const asked = new Asked<Schemas['HistoryView']>();
  const view = $derived(asked.value);
  const load = () =>
    asked.ask(() => api.GET('/api/v1/joints/{id}/history', { params: { path: { id } } }));
  void load();
  const WHERE = (line: Schemas['HistoryLine']) =>
    line.run_id ? `/runs/${line.run_id}/record` : '';
</script>

<section>
  <h2 class="border-b border-ink pb-1">Entries</h2>
  <Failure text={asked.failed} />
  {#if view}
    {#if view.movement.finding}
      <Notice class="my-3">
        <p><Sentence key="joint.keeps_moving" values={{ moved: view.movement.words }} /></p>
        <ul class="ml-5 list-disc">
          {#each view.movement.proposals as one (one)}<li>{one}</li>{/each}
        </ul>
      </Notice>
    {/if}
    <p class="soft py-1 text-sm">
      {sentence('joint.fasteners', {
        uses: view.uses_words,
        moved: view.movement.finding ? 'none' : view.movement.words,
      })}
    </p>
    <Note {id} {onreplaced} onkept={() => void load()} />
    <ol>
      {#each view.lines as line (line.at + line.title)}
        <li class="grid grid-cols-[7.5rem_1fr] gap-3 border-b py-2">
          <span class="soft text-sm">{day(line.at)}<span class="block">{clock(line.at)}</span></span
          >
          <div class="min-w-0">
            <p>
              {#if line.marked}<Mark severity="caution" />{/if}
              {#if WHERE(line)}<a href={WHERE(line)} class="font-semibold">{line.title}</a>{:else}<b
                  class="font-semibold">{line.title}</b
                >{/if}
            </p>
            <p class="soft text-sm">{line.words}{line.words ? ' · ' : ''}{line.person}</p>
          </div>
        </li>
      {:else}<li class="soft py-2">Nothing is on record yet.</li>{/each}
    </ol>
  {/if}
</section>
