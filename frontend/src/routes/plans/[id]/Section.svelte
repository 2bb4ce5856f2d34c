<script lang="ts">
  import type { Snippet } from 'svelte';
  import AccordionItem from 'flowbite-svelte/AccordionItem.svelte';
  import type { Schemas } from '#lib/api/client.ts';

  /**
   * One section of the Bench: folded it is its number, its mark, its title and its telling line.
   */
  interface Props {
    section: Schemas['Section'];
    /** Number in work order. */
    number: number;
    open: boolean;
    ontoggle: (open: boolean) => void;
    children: Snippet;
  }
  let { section, number, open, ontoggle, children }: Props = $props();
  const mark = $derived(section.mark);
</script>

<div class={open ? 'sheet my-1' : ''} data-section={section.key}>
  <AccordionItem
    bind:open={() => open, ontoggle}
    headingTag="div"
    transitionParams={{ duration: 0 }}
    classes={{
      active: 'bg-transparent',
      inactive: 'bg-transparent',
      button: 'min-h-[34px] w-full justify-start px-2 py-1 text-left pointer-coarse:min-h-[48px]',
      content: 'grid gap-2.5 px-3 pt-1 pb-3',
    }}
  >
    {#snippet header()}
      <span
        class="grid min-w-0 flex-1 grid-cols-[24px_minmax(0,1fr)] items-center gap-x-3 leading-[1.25] lg:grid-cols-[24px_minmax(0,10fr)_minmax(0,13fr)]"
      >
        <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
          {#if mark === 'stop'}
            <rect x="2" y="2" width="20" height="20" class="stop" />
          {:else if mark === 'caution'}
            <path d="M12 1.500 23 22H1Z" class="caution" />
          {:else}
            <circle cx="12" cy="12" r="10.5" class={open ? 'open' : 'good'} />
          {/if}
          <text
            x="12"
            y={mark === 'caution' ? 19 : 16.5}
            class={open || mark !== 'good' ? 'on' : ''}>{number}</text
          >
        </svg>
        <span class="min-w-0 {open ? '' : 'truncate'}" title={section.title}
          ><b>{section.title}</b>{#if mark !== 'good'}<span class="sr-only"
              >, {mark === 'stop' ? 'error' : 'warning'}</span
            >{/if}</span
        >
        <span
          class="min-w-0 truncate text-[0.9rem] text-soft max-lg:col-start-2"
          title={section.line}>{section.line}</span
        >
      </span>
    {/snippet}
    {#snippet arrowup()}{/snippet}
    {#snippet arrowdown()}{/snippet}
    {@render children()}
  </AccordionItem>
</div>

<style>
  svg {
    background: var(--sheet);
    border-radius: 50%;
  }
  .good {
    fill: var(--sheet);
    stroke: var(--soft);
    stroke-width: 1.5;
  }
  .open {
    fill: var(--brine);
  }
  .caution {
    fill: var(--caution);
  }
  .stop {
    fill: var(--stop);
  }
  text {
    font-size: 12px;
    font-weight: 700;
    text-anchor: middle;
    fill: var(--ink);
  }
  .on {
    fill: var(--sheet);
  }
</style>
