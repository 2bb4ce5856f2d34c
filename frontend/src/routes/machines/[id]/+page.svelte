<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { page } from '$app/state';
  import { api, problemText, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { session } from '#lib/session.svelte.ts';
  import Meter from './Meter.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';
  import Word from '#lib/parts/Word.svelte';

  /** A machine with its meters. */
  const path = { id: page.params.id! };
  const asked = new Asked<Schemas['MachineView']>();
  const machine = $derived(asked.value);
  const load = () =>
    asked.ask(() => api.GET('/api/v1/equipment/{id}/meters', { params: { path } }));
  void load();
  let unit = $state('');
  let failed = $state('');
  async function add(event: Event) {
    event.preventDefault();
    const body = { unit: unit || machine!.units[0]!, name: '' };
    const { error } = await api
      .POST('/api/v1/equipment/{id}/meters', { params: { path }, body })
      .catch(() => ({ error: {} }));
    failed = error ? problemText(error) : '';
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
{#if machine}
  <PageHead
    where={[['Equipment', '/equipment'], [machine.tag]]}
    title={machine.name}
    about="{machine.tag} · {machine.site}, {machine.area}"
  >
    {#snippet quiet()}
      <Word href="/equipment?find={machine.tag}">Show joints</Word>
      <Word href="/api/v1/labels.pdf?what=machines&ids={machine.id}" target="_blank" rel="noopener"
        >Print labels</Word
      >
    {/snippet}
  </PageHead>
{/if}
<div class="page">
  <Failure text={asked.failed || failed} />
  {#if machine}
    {#each machine.meters as meter (meter.id)}<Meter
        {meter}
        hows={machine.hows}
        onchange={() => void load()}
      />{:else}
      <p class="soft">
        No meter yet. Add one to plan rechecks by kilometres, running hours, cycles or starts.
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
        <Button type="submit" color="alternative">Add meter</Button>
      </form>
    {/if}
  {/if}
</div>
