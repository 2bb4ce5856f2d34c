<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';

  /** Another wrench from here on: which one, why, how it was checked before use. */
  let { run, onclose }: { run: Run; onclose: () => void } = $props();
  let open = $state(true);
  let tool = $state('');
  let serial = $state('');
  let reason = $state('');
  let checked = $state('');
  let failed = $state('');
  const uid = $props.id();
  const asked = new Asked<Schemas['StartView']>();
  $effect(() => {
    const query = {
      occasion: run.state!.occasion,
      variants: run.state!.variants.join(','),
      run: run.id,
    };
    void asked.ask(() =>
      api.GET('/api/v1/revisions/{id}/start', {
        params: { path: { id: run.view!.head.revision_id }, query },
      }),
    );
  });
  const needed = $derived(asked.value?.tools ?? []);
  const wanted = $derived(needed.find((t) => t.id === tool) ?? needed[0]);
  const offer = $derived(wanted?.offers.find((o) => o.serial === serial));
  $effect(() => {
    if (!open) onclose();
  });
  let tested = $state.raw<Schemas['Tested'] | null>(null);
  const trying = new Asked<Schemas['Tested']>();
  async function test() {
    const body = { serial, device: 'simulated-tester' };
    await trying.ask(() => api.POST('/api/v1/tests-of-tools', { body }));
    tested = trying.value ?? null;
    checked = tested?.words ?? checked;
  }
  async function take(event: Event) {
    event.preventDefault();
    await run.send('tool', '-', {
      tool: wanted!.id,
      serial,
      reason: reason.trim(),
      checked: checked.trim(),
    });
    // what was typed stays until the wrench is taken
    if (run.said) failed = run.said;
    else open = false;
  }
</script>

<Modal bind:open title="Take another wrench" size="md">
  <Failure text={asked.failed || trying.failed || failed} />
  <form class="grid gap-3" onsubmit={take}>
    {#if needed.length > 1}
      <QuantityField
        label="For which"
        value={wanted?.id ?? ''}
        choices={needed.map((t): [string, string] => [t.id, t.words])}
        large
        onchange={(id) => (tool = id)}
      />
    {/if}
    {#if wanted}
      <QuantityField
        label={wanted.words}
        value={serial}
        choices={[
          ['', 'choose by serial'],
          ...wanted.offers.map((o): [string, string] => [o.serial, o.words]),
        ]}
        large
        onchange={(id) => (serial = id)}
      />
      {#each wanted.blocked as words (words)}<p class="soft text-sm">Not {words}</p>{/each}
      {#if offer}<p class={offer.good ? 'soft' : 'text-caution'}>{offer.state}</p>{/if}
    {/if}
    <Label for="{uid}-w">Why, and what is done with the bolts that the other one pulled</Label>
    <Input
      id="{uid}-w"
      class="min-h-[56px] text-lg"
      bind:value={reason}
      maxlength={1000}
      autocomplete="off"
    />
    <Label for="{uid}-c">Checked before use: on what, what it read (may be left empty)</Label>
    <Input
      id="{uid}-c"
      class="min-h-[56px] text-lg"
      bind:value={checked}
      maxlength={1000}
      autocomplete="off"
    />
    {#if serial}<GloveButton look="quiet" onclick={test}
        >Three pulls on the tester (simulated)</GloveButton
      >{/if}
    {#if tested && !tested.good}<p class="font-bold text-stop" role="alert">
        {sentence('run.take_another', { why: tested.words })}
      </p>{/if}
    <GloveButton type="submit" look="main" disabled={!serial || !reason.trim() || run.busy}
      >Continue with this wrench</GloveButton
    >
  </form>
</Modal>
