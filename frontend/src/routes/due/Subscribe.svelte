<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { day } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import { sentence } from '#lib/sentence.ts';

  /** The secret address by which a calendar program reads the due dates. */
  const asked = new Asked<Schemas['LinkView']>();
  const link = $derived(asked.value);
  const uid = $props.id();
  void asked.ask(() => api.GET('/api/v1/calendar'));
  const act = (what: 'make' | 'end') =>
    asked.ask(() => api.POST('/api/v1/calendar', { body: { act: what } }));
</script>

<section class="mt-8 max-w-2xl">
  <h2 class="border-b border-ink pb-1">Calendar link</h2>
  <p class="my-2">
    A calendar program that can subscribe to an address (iCalendar) shows these days beside your
    own. Anybody with the address can read them: do not share it, and create a new one if it was
    seen.
  </p>
  <Failure text={asked.failed} />
  {#if link?.address}
    <Label for="{uid}-a">Your address; it is shown this once</Label>
    <Input
      id="{uid}-a"
      readonly
      value={link.address}
      onfocus={(e) => (e.currentTarget as HTMLInputElement).select()}
    />
  {:else if link?.since}<p class="soft">
      {sentence('due.link', { day: day(link.since) })}
    </p>{/if}
  <p class="mt-3 flex gap-3">
    <Button color="alternative" disabled={asked.busy} onclick={() => act('make')}
      >{link?.since ? 'Create new link, end the old one' : 'Create link'}</Button
    >
    {#if link?.since}<Button color="alternative" disabled={asked.busy} onclick={() => act('end')}
        >End link</Button
      >{/if}
  </p>
</section>
