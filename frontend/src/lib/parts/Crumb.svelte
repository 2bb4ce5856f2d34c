<script lang="ts">
  import Breadcrumb from 'flowbite-svelte/Breadcrumb.svelte';
  import BreadcrumbItem from 'flowbite-svelte/BreadcrumbItem.svelte';

  /** Where a screen stands: what is above it, as [words, address]. */
  let { steps }: { steps: [string, string?][] } = $props();
</script>

<Breadcrumb>
  {#each steps as [words, href], i (words)}
    <BreadcrumbItem
      {href}
      class="ms-0 md:ms-0"
      icon={i ? undefined : none}
      linkClass="ms-0 md:ms-0 font-normal text-brine min-h-[24px]"
      spanClass="ms-0 md:ms-0 font-normal text-soft">{words}</BreadcrumbItem
    >
  {/each}
</Breadcrumb>
{#snippet none()}{/snippet}
