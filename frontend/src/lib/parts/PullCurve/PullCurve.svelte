<script lang="ts">
  import type { Attachment } from 'svelte/attachments';
  import type { Picture } from './curve.ts';

  /**
   * Torque over angle of one pull or of several, with what is to be reached and where something is
   * wrong.
   */
  let {
    picture,
    label,
    class: more = 'h-44',
  }: { picture: Picture; label: string; class?: string } = $props();

  // loaded when it is needed: a run without a measuring wrench carries no chart
  const drawn: Attachment<HTMLElement> = (element) => {
    let made = $state.raw<ReturnType<(typeof import('./curve.ts'))['draw']>>();
    let gone = false;
    void import('./curve.ts').then(({ draw }) => {
      if (!gone) made = draw(element, picture);
    });
    $effect(() => made?.set(picture));
    return () => {
      gone = true;
      made?.end();
    };
  };
</script>

<figure role="img" aria-label={label} class="w-full min-w-0 overflow-hidden">
  <div class="w-full {more}" {@attach drawn}></div>
</figure>
