<script lang="ts">
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import DueLine from '#lib/parts/Due/DueLine.svelte';
  import Failure from '#lib/parts/Failure.svelte';

  /** Rechecks of a joint that are due after something that somebody has to report. */
  let { joint, onchange }: { joint: Schemas['JointView']; onchange: () => void } = $props();
  const waiting = $derived(joint.dues.filter((due) => due.waits));
  const said = new Asked<unknown>();
  async function happened(rule: string) {
    const { error } = await api
      .POST('/api/v1/joints/{id}/happened', { params: { path: { id: joint.id } }, body: { rule } })
      .catch(() => ({ error: {} }));
    if (error) await said.ask(async () => ({ error }));
    else onchange();
  }
</script>

{#if waiting.length}
  <section>
    <h2 class="border-b border-ink pb-1">Rechecks after an event</h2>
    <Failure text={said.failed} />
    <ul>
      {#each waiting as due (due.rule)}<DueLine {due} here onhappened={happened} />{/each}
    </ul>
  </section>
{/if}
