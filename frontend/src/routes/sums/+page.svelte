<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';

  /** The first question of the list. */
  const asked = new Asked<Schemas['SumList']>();
  asked
    .ask(() => api.GET('/api/v1/sums'))
    .then((list) => list && goto(`/sums/${list.items[0]!.name}`, { replaceState: true }));
</script>

<Failure text={asked.failed} class="m-8" />
