<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { clock } from '#lib/figures.ts';

  /** The run in five lines, with the time before each; the last says what is still missing. */
  let { lines }: { lines: Schemas['SummaryLine'][] } = $props();
</script>

<ul class="my-3 border-y py-2 text-lg">
  {#each lines as line, i (i)}
    <li class="grid grid-cols-[5.5rem_1fr] gap-x-2 py-[3px]">
      <span class="soft whitespace-nowrap">{line.at ? clock(line.at) : ''}</span>
      <span>
        {#if i === lines.length - 1}{line.text} <b>{line.strong}</b>{:else}{#if line.strong}<b
              >{line.strong}</b
            >{/if}
          {line.text}{/if}
      </span>
    </li>
  {/each}
</ul>
