<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { clock } from '#lib/figures.ts';

  /** What was answered beside the bolts: conditions, items, checks, readings. */
  let { lines, names }: { lines: Schemas['RecordLine'][]; names: Record<string, string> } =
    $props();
</script>

<section>
  <h2 class="border-b border-ink pb-1">Conditions, items, checks, readings</h2>
  {#each lines as line, i (i)}
    <p class="flex gap-3 border-b py-1 text-sm">
      <span class="soft w-24 shrink-0"
        >{line.stage}{line.position ? `, ${names[line.position]}` : ''}</span
      ><span class="flex-1">{line.text}</span><b>{line.answer}</b><span class="soft"
        >{clock(line.at)}</span
      >
    </p>
  {:else}<p class="soft">None yet.</p>{/each}
</section>
