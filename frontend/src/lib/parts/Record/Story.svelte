<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { clock } from '#lib/figures.ts';
  import Mark from '#lib/parts/Mark.svelte';
  import { sentence } from '#lib/sentence.ts';

  /** What happened, in order and in words: for somebody who was not there. */
  let { lines, names }: { lines: Schemas['StoryLine'][]; names: Record<string, string> } = $props();
  const GRAVE = ['problem', 'decision', 'aside', 'abandon'];
  const stage = (line: Schemas['StoryLine']) =>
    [line.stage, line.position ? names[line.position] : ''].filter(Boolean).join(', ');
</script>

<section class="mt-6">
  <h2 class="border-b border-ink pb-1">Course of the run</h2>
  <ol class="m-0 list-none p-0">
    {#each lines as line, i (i)}
      <li
        class="grid grid-cols-[6.5rem_9rem_1fr] gap-3 border-b py-1 text-sm max-sm:grid-cols-1 max-sm:gap-0"
      >
        <span class="soft">{clock(line.at)}{line.until ? ` to ${clock(line.until)}` : ''}</span>
        <span class="soft">{stage(line)}</span>
        <span>
          {#if GRAVE.includes(line.kind)}<Mark
              severity={line.kind === 'problem' ? 'stop' : 'caution'}
            />{/if}
          {#if line.what}{sentence('record.what_at', {
              what: line.what,
              count: line.bolts?.length ?? 0,
              bolts: line.bolts?.join(', '),
            })}
            <b>{line.text}</b>{:else}{line.text}{/if}
          <span class="soft">{line.person}</span>
          {#each line.marks ?? [] as mark (mark)}<b class="text-caution"> · {mark}</b>{/each}
          {#if line.photo}<a href="/api/v1/photos/{line.photo}" target="_blank" rel="noopener"
              ><img
                class="mt-1 max-h-40 rounded"
                src="/api/v1/photos/{line.photo}"
                alt={sentence('record.photo_by', { person: line.person })}
              /></a
            >{/if}
        </span>
      </li>
    {/each}
  </ol>
</section>
