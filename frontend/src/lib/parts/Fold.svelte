<script lang="ts">
  import { untrack, type Snippet } from 'svelte';
  import Accordion from 'flowbite-svelte/Accordion.svelte';
  import AccordionItem from 'flowbite-svelte/AccordionItem.svelte';

  /** Something folded to one line until it is wanted. */
  interface Props {
    title: string;
    /** Words behind the title. */
    more?: string;
    open?: boolean;
    /** Called when it is opened or folded. */
    ontoggle?: (open: boolean) => void;
    children: Snippet;
  }
  let { title, more = '', open = false, ontoggle, children }: Props = $props();
  let shown = $state(untrack(() => open));
  $effect(() => {
    if (open) shown = true;
  });
</script>

<!-- several may be open: without this a fold inside a section would close the section -->
<Accordion multiple>
  <AccordionItem
    bind:open={
      () => shown,
      (now) => {
        shown = now;
        ontoggle?.(now);
      }
    }
    headingTag="div"
    transitionParams={{ duration: 0 }}
    classes={{
      active: 'bg-transparent',
      inactive: 'bg-transparent',
      button: 'justify-start gap-2 min-h-(--word-height) text-sm text-soft',
      content: 'mt-1 grid gap-2',
    }}
  >
    {#snippet header()}<span
        ><b class="font-semibold text-ink">{title}</b>{more ? ` ${more}` : ''}</span
      >{/snippet}
    {@render children()}
  </AccordionItem>
</Accordion>
