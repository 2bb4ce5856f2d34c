<script lang="ts">
  import type { Attachment } from 'svelte/attachments';
  import type { Schemas } from '#lib/api/client.ts';

  /** Errors of the checks of a wrench over time, between what its class allows. */
  let { checks, label }: { checks: Schemas['CheckView'][]; label: string } = $props();

  const drawn: Attachment<HTMLElement> = (element) => {
    let end: (() => void) | undefined;
    let gone = false;
    void import('./errorChart.ts').then(({ draw }) => {
      if (!gone) end = draw(element, checks);
    });
    return () => {
      gone = true;
      end?.();
    };
  };
</script>

<figure role="img" aria-label={label} class="mt-2 w-full min-w-0 overflow-hidden">
  {#key checks}<div class="h-48 w-full" {@attach drawn}></div>{/key}
</figure>
