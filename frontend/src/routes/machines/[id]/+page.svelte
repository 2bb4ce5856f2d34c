<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { page } from '$app/state';
  import { api, sentence, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Crumb from '#lib/parts/Crumb.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { session } from '#lib/session.svelte.ts';
  import Meter from './Meter.svelte';

  /** A machine with its meters. */
  const path = { id: page.params.id! };
  const asked = new Asked<Schemas['MachineView']>();
  const machine = $derived(asked.value);
  const load = () => asked.ask(() => api.GET('/api/v1/equipment/{id}/meters', { params: { path } }));
  void load();
  let unit = $state('');
  let failed = $state('');
  async function add(event: Event) {
    event.preventDefault();
    const body = { unit: unit || machine!.units[0]!, name: '' };
    const { error } = await api.POST('/api/v1/equipment/{id}/meters', { params: { path }, body }).catch(() => ({ error: {} }));
    failed = error ? sentence(error) : '';
    if (!error) await load();
  }
  const WORDS: Record<string, string> = {
    km: 'kilometres',
    mi: 'miles',
    h: 'running hours',
    cycles: 'cycles of heat or pressure',
    starts: 'starts',
  };
</script>

<svelte:head><title>{machine?.name ?? 'Machine'} · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-4xl px-6 py-6">
  <Failure text={asked.failed || failed} />
  {#if machine}
    <Crumb steps={[['Equipment', '/equipment'], [machine.tag]]} />
    <h1>{machine.name} <span class="soft ml-1 text-base font-normal">{machine.tag} · {machine.site}, {machine.area}</span></h1>
    <p class="mt-1 flex flex-wrap gap-4 text-sm">
      <a href="/equipment?find={machine.tag}">its joints</a>
      <a href="/api/v1/labels.pdf?what=machines&ids={machine.id}" target="_blank" rel="noopener">labels of its joints (PDF)</a>
    </p>
    {#each machine.meters as meter (meter.id)}<Meter {meter} hows={machine.hows} onchange={() => void load()} />{:else}
      <p class="soft mt-5">
        It has no meter yet. With one, rechecks by kilometres, hours, cycles or starts get their day from what is read.
      </p>
    {/each}
    {#if machine.units.length && session.may('rechecking.add_meter')}
      <form class="mt-6 flex items-end gap-3" onsubmit={add}>
        <div class="w-64">
          <QuantityField
            label="New meter, counts"
            value={unit || machine.units[0]!}
            choices={machine.units.map((one): [string, string] => [one, WORDS[one] ?? one])}
            onchange={(to) => (unit = to)}
          />
        </div>
        <Button type="submit" color="alternative">Give it this meter</Button>
      </form>
    {/if}
  {/if}
</div>
