<script lang="ts">
  import { api, must, type Schemas } from '#lib/api/client.ts';
  import { clock, day } from '#lib/figures.ts';
  import { STATUS } from '#lib/kinds.ts';

  let runs = $state<Schemas['RunHead'][]>([]);
  let next = $state<number | null>(null);
  let loaded = $state(false);
  let error = $state('');

  async function more() {
    try {
      const page = must(await api.GET('/api/v1/runs', { params: { query: { limit: 30, before: next ?? undefined } } }));
      runs = [...runs, ...page.items];
      next = page.next ?? null;
      loaded = true;
    } catch (problem) {
      error = (problem as Error).message;
    }
  }
  void more();
</script>

<svelte:head><title>Runs · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-5xl px-6 py-6">
  <h1 class="mb-4">Runs</h1>
  {#if error}<p class="text-stop" role="alert">{error}</p>{/if}
  {#if runs.length}
    <div class="overflow-x-auto">
      <table class="w-full">
        <thead class="soft border-b border-ink text-left text-sm"
          ><tr><th class="py-1">Run</th><th>Joint</th><th>Plan</th><th>State</th><th>Begun</th><th>By</th></tr></thead
        >
        <tbody>
          {#each runs as run (run.id)}
            <tr class="border-b">
              <td class="py-2"
                ><a class="font-bold" href={run.status === 'running' ? `/runs/${run.id}` : `/runs/${run.id}/record`}
                  >{run.number}</a
                ></td
              >
              <td>{run.equipment_name} › {run.joint_name}</td>
              <td>{run.title}, revision {run.revision}</td>
              <td>{STATUS[run.status]}</td>
              <td>{day(run.started_at)} {clock(run.started_at)}</td>
              <td>{run.started_by}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    {#if next}<button class="act mt-4" onclick={more}>Older runs</button>{/if}
  {:else if loaded}
    <p class="soft">Nothing was tightened yet. Choose a joint in <a href="/equipment">Equipment</a> and start a run there.</p>
  {/if}
</div>
