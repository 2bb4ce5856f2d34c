<script lang="ts">
  import type { Snippet } from 'svelte';

  /** A link to a run: to the run itself while it is under way, to its record afterwards. */
  interface Props {
    run: { id: string; under_way: boolean };
    class?: string;
    children: Snippet;
  }
  let { run, class: more = '', children }: Props = $props();
</script>

<a class={more} href={run.under_way ? `/runs/${run.id}` : `/runs/${run.id}/record`}
  >{@render children()}</a
>
