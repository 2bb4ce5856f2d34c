<script lang="ts">
  import type { Snippet } from 'svelte';
  import AccordionItem from 'flowbite-svelte/AccordionItem.svelte';
  import type { Schemas } from '#lib/api/client.ts';

  /** One section of the Bench: folded it is its number, its mark, its title and its telling line. */
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

<div class="ml-[11px] border-l-2 border-hairline pb-2" data-section={section.key}>
  <AccordionItem
    bind:open={() => open, ontoggle}
    headingTag="div"
    transitionParams={{ duration: 0 }}
    classes={{
      active: 'bg-transparent',
      inactive: 'bg-transparent',
      button: '-ml-[13px] w-[calc(100%+13px)] justify-start text-left',
      content: 'grid gap-2.5 py-2 pl-6',
    }}
  >
    {#snippet header()}
      <span class="grid min-w-0 flex-1 grid-cols-[24px_1fr] gap-3 leading-[1.3]">
        <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
          {#if mark === 'stop'}
            <rect x="2" y="2" width="20" height="20" class="stop" />
          {:else if mark === 'caution'}
            <path d="M12 1.500 23 22H1Z" class="caution" />
          {:else}
            <circle cx="12" cy="12" r="10.5" class={open ? 'open' : 'good'} />
          {/if}
          <text x="12" y={mark === 'caution' ? 19 : 16.5} class={open || mark !== 'good' ? 'on' : ''}>{number}</text>
        </svg>
        <span class="min-w-0"
          ><b>{section.title}</b>{#if mark !== 'good'}<span class="sr-only">, {mark}</span>{/if}<br /><span
            class="block truncate text-[0.9rem] text-soft">{section.line}</span
          ></span
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
    stroke: var(--brine);
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
    fill: var(--brine);
  }
  .on {
    fill: var(--sheet);
  }
</style>
