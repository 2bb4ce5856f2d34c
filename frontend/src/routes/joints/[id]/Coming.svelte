<script lang="ts">
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import DueLine from '#lib/parts/Due/DueLine.svelte';
  import Failure from '#lib/parts/Failure.svelte';

  /** When a joint is looked at next, rule by rule. */
  let { joint, onchange }: { joint: Schemas['JointView']; onchange: () => void } = $props();
  const said = new Asked<unknown>();
  async function happened(rule: string) {
    const { error } = await api
      .POST('/api/v1/joints/{id}/happened', { params: { path: { id: joint.id } }, body: { rule } })
      .catch(() => ({ error: {} }));
    if (error) await said.ask(async () => ({ error }));
    else onchange();
  }
</script>

{#if joint.dues.length}
  <section class="mb-6">
    <h2 class="border-b border-ink pb-1">Coming back</h2>
    <Failure text={said.failed} />
    <ul>
      {#each joint.dues as due (due.rule)}<DueLine {due} here onhappened={happened} />{/each}
    </ul>
  </section>
{/if}
