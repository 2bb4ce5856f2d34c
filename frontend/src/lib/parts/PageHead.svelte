<script lang="ts">
  import type { Snippet } from 'svelte';
  import Crumb from './Crumb.svelte';

  /** The one header row of every page: where, title, quiet actions, state, one filled button. */
  interface Props {
    /** What is above the page, as [words, address]. */
    where?: [string, string?][];
    title: string | Snippet;
    about?: string;
    quiet?: Snippet;
    /** How the page's subject is now, in two lines. */
    state?: Snippet;
    main?: Snippet;
  }
  let { where = [], title, about = '', quiet, state, main }: Props = $props();
</script>

<header class="border-b bg-sheet">
  <div class="page-width flex min-h-[62px] flex-wrap items-center gap-x-7 gap-y-2 py-2">
    <div class="min-w-0 flex-1 basis-64">
      {#if where.length}<Crumb steps={where} />{/if}
      {#if typeof title === 'string'}
        <div class="flex flex-wrap items-baseline gap-x-3">
          <h1>{title}</h1>
          {#if about}<p class="soft">{about}</p>{/if}
        </div>
      {:else}{@render title()}{/if}
    </div>
    {#if quiet}<div class="no-print flex flex-wrap items-center gap-x-6 gap-y-1">
        {@render quiet()}
      </div>{/if}
    {#if state}<div class="text-right text-sm leading-snug max-sm:text-left">
        {@render state()}
      </div>{/if}
    {#if main}<div class="no-print flex flex-wrap gap-2">{@render main()}</div>{/if}
  </div>
</header>
