<script lang="ts">
  import type { Snippet } from 'svelte';
  import Sidebar from 'flowbite-svelte/Sidebar.svelte';
  import SidebarGroup from 'flowbite-svelte/SidebarGroup.svelte';
  import SidebarItem from 'flowbite-svelte/SidebarItem.svelte';

  /** The list beside a screen: one of it is shown. */
  interface Props {
    label: string;
    heading?: string;
    items: { id: string; words: string; href: string; note?: string }[];
    chosen: string;
    children?: Snippet;
  }
  let { label, heading, items, chosen, children }: Props = $props();
  const LINE = 'flex justify-between border-l-[3px] py-1 pl-3 !no-underline !text-ink';
</script>

<Sidebar
  role="navigation"
  position="static"
  isOpen
  alwaysOpen
  backdrop={false}
  ariaLabel={label}
  class="h-auto w-full bg-transparent"
  classes={{
    div: 'bg-transparent p-0 overflow-visible',
    active: `${LINE} border-brine bg-tint font-semibold`,
    nonactive: `${LINE} border-transparent hover:bg-tint`,
  }}
>
  {#if heading}<h2 class="mb-2">{heading}</h2>{/if}
  <SidebarGroup class="grid gap-[2px] space-y-0">
    {#each items as item (item.id)}
      <SidebarItem label={item.words} href={item.href} active={item.id === chosen} spanClass="">
        {#snippet subtext()}{#if item.note}<span class="soft pr-2">{item.note}</span>{/if}{/snippet}
      </SidebarItem>
    {/each}
  </SidebarGroup>
  {@render children?.()}
</Sidebar>
