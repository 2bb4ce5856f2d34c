<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { day } from '#lib/figures.ts';
  import Mark from '#lib/parts/Mark.svelte';

  /** One list of the shift: each line leads where it is done. */
  let { list }: { list: Schemas['ShiftList'] } = $props();
</script>

<section class="min-w-0">
  <h2 class="border-b border-ink pb-1">
    {list.title}
    {#if list.count}<span class="soft font-normal">{list.count}</span>{/if}
  </h2>
  <ul>
    {#each list.lines as line (line.href + line.title)}
      <li class="flex gap-2 border-b py-2">
        {#if line.marked}<span class="pt-[3px]"
            ><Mark severity={list.id === 'unfit' ? 'stop' : 'caution'} /></span
          >{/if}
        <div class="min-w-0 flex-1">
          <p><a href={line.href} class="font-semibold">{line.title}</a></p>
          <p class="soft text-sm">
            {line.where}{line.where && line.words ? ' · ' : ''}{line.words}
          </p>
        </div>
        {#if line.at}<span class="soft text-sm whitespace-nowrap">{day(line.at)}</span>{/if}
      </li>
    {:else}
      <li class="soft py-2">{list.empty}</li>
    {/each}
  </ul>
</section>
