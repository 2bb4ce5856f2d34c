<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';

  /** The secret address by which a calendar program reads the due dates. */
  const asked = new Asked<Schemas['LinkView']>();
  const link = $derived(asked.value);
  const uid = $props.id();
  void asked.ask(() => api.GET('/api/v1/calendar'));
  const act = (what: 'make' | 'end') => asked.ask(() => api.POST('/api/v1/calendar', { body: { act: what } }));
</script>

<section class="mt-8 max-w-2xl">
  <h2 class="border-b border-ink pb-1">In your own calendar</h2>
  <p class="my-2">
    A calendar program that can subscribe to an address (iCalendar) shows these days beside your own. Whoever has the address can
    read them: give it to nobody, and make it anew when it got out.
  </p>
  <Failure text={asked.failed} />
  {#if link?.address}
    <Label for="{uid}-a">Your address; it is shown this once</Label>
    <Input id="{uid}-a" readonly value={link.address} onfocus={(e) => (e.currentTarget as HTMLInputElement).select()} />
  {:else if link?.since}<p class="soft">
      There is one since {day(link.since)}. Its secret is not kept here to be shown again.
    </p>{/if}
  <p class="mt-3 flex gap-3">
    <Button color="alternative" disabled={asked.busy} onclick={() => act('make')}
      >{link?.since ? 'Make it anew; the old one ends' : 'Make an address'}</Button
    >
    {#if link?.since}<Button color="alternative" disabled={asked.busy} onclick={() => act('end')}>End it</Button>{/if}
  </p>
</section>
