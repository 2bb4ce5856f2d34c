<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { digits } from '#lib/figures.ts';
  import Mark from '#lib/parts/Mark.svelte';
  import { sentence } from '#lib/sentence.ts';

  /** One tool in the list: what it is, what it reaches, how it stands. */
  let { tool }: { tool: Schemas['ToolView'] } = $props();
  const reach = $derived(
    !tool.high_Nm
      ? ''
      : tool.low_Nm === tool.high_Nm
        ? `${digits(tool.high_Nm)} N·m`
        : `${digits(tool.low_Nm)} to ${digits(tool.high_Nm)} N·m`,
  );
</script>

<li
  class="grid grid-cols-[20px_minmax(0,1fr)] gap-x-3 border-b py-2 md:grid-cols-[20px_minmax(0,5fr)_minmax(0,4fr)]"
>
  <span class="pt-1"
    >{#if !tool.good}<Mark severity={tool.allowed ? 'caution' : 'stop'} />{/if}</span
  >
  <p>
    <a href="/tools/{tool.id}" class="font-bold">{tool.serial}</a>
    <span class="ml-1">{tool.name}{reach ? `, ${reach}` : ''}</span>
    <span class="soft block text-sm"
      >{[
        tool.place,
        tool.owner,
        tool.borrowed ? 'borrowed' : '',
        tool.pulls ? sentence('tool.pulls_since', { count: tool.pulls }) : '',
      ]
        .filter(Boolean)
        .join(' · ')}</span
    >
  </p>
  <p class="col-start-2 text-sm md:col-start-3 {tool.good ? 'soft' : 'font-semibold text-stop'}">
    {tool.state}{tool.corrected_text ? `; ${tool.corrected_text}` : ''}
    {#if tool.allowed && !tool.good}<span class="block font-normal text-caution"
        >{tool.allowed_text}</span
      >{/if}
  </p>
</li>
