<script lang="ts">
  import { goto } from '$app/navigation';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';

  /**
   * Search from anywhere: words in any order, the arrows choose, Enter opens; `early` was typed
   * before the field was there.
   */
  let { early = $bindable(), onclose }: { early: string; onclose: () => void } = $props();
  let open = $state(true);
  let text = $state('');
  let chosen = $state(0);
  const asked = new Asked<Schemas['Hits']>();
  const hits = $derived(text.trim() ? (asked.value?.items ?? []) : []);
  const uid = $props.id();
  let waiting: ReturnType<typeof setTimeout> | undefined;
  let field = $state<HTMLElement>();

  $effect(() => {
    if (!open) onclose();
  });
  $effect(() => field?.querySelector('input')?.focus());
  $effect(() => {
    if (!early) return;
    seek(text + early);
    early = '';
  });
  function seek(to: string) {
    text = to;
    clearTimeout(waiting);
    if (!to.trim()) return;
    waiting = setTimeout(() => {
      chosen = 0;
      void asked.ask(() => api.GET('/api/v1/search', { params: { query: { find: text } } }));
    }, 120);
  }
  async function go(href: string) {
    open = false;
    await goto(href);
  }
  function onkeydown(event: KeyboardEvent) {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (by && hits.length) {
      event.preventDefault();
      chosen = (chosen + by + hits.length) % hits.length;
    } else if (event.key === 'Enter' && hits[chosen]) {
      event.preventDefault();
      void go(hits[chosen]!.href);
    }
  }
</script>

<Modal bind:open title="Search everywhere" size="md" placement="top-center">
  <div bind:this={field}>
    <Label for="{uid}-f" class="sr-only">Search text</Label>
    <Input
      id="{uid}-f"
      role="combobox"
      aria-expanded={hits.length > 0}
      aria-controls="{uid}-l"
      aria-activedescendant={hits.length ? `${uid}-${chosen}` : undefined}
      autocomplete="off"
      placeholder="machine, joint, size, plan, tool, number of a run, table"
      value={text}
      oninput={(e) => seek((e.currentTarget as HTMLInputElement).value)}
      {onkeydown}
    />
  </div>
  <Failure text={asked.failed} />
  <ul id="{uid}-l" role="listbox" aria-label="Found" class="max-h-[50vh] overflow-auto">
    {#each hits as hit, i (hit.href)}
      <li
        id="{uid}-{i}"
        role="option"
        aria-selected={i === chosen}
        class="border-b {i === chosen ? 'bg-tint' : ''}"
      >
        <a
          href={hit.href}
          class="grid grid-cols-[5rem_1fr] gap-2 px-2 py-1.5 !text-ink !no-underline"
          onclick={() => (open = false)}
        >
          <span class="soft text-sm">{hit.sort}</span>
          <span
            ><b class="font-semibold">{hit.title}</b>
            <span class="soft text-sm">{hit.words}</span></span
          >
        </a>
      </li>
    {/each}
  </ul>
  {#if text.trim() && asked.value && !asked.busy && !hits.length}<p class="soft">
      Nothing has all these words.
    </p>{/if}
</Modal>
