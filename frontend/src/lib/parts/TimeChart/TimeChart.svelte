<script lang="ts">
  import type { Attachment } from 'svelte/attachments';
  import type { TimeData } from './draw.ts';

  /** Lines over time; the drawing comes once the chart is on the screen. */
  let { data, label }: { data: TimeData; label: string } = $props();

  const drawn: Attachment<HTMLElement> = (element) => {
    const given = data;
    let end: (() => void) | undefined;
    let gone = false;
    void import('./draw.ts').then(({ draw }) => {
      if (!gone) end = draw(element, given);
    });
    return () => {
      gone = true;
      end?.();
    };
  };
</script>

<figure role="img" aria-label={label} class="mt-2 w-full min-w-0 overflow-hidden">
  {#key data}<div class="h-48 w-full" {@attach drawn}></div>{/key}
</figure>
