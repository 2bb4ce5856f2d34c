<script lang="ts">
  import { untrack } from 'svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { api, type Schemas } from '../../api/client';
  import { Asked } from '../../asked.svelte';
  import type { Plan } from '../../plan';
  import Failure from '../Failure.svelte';
  import Steps from './Steps.svelte';

  interface Props {
    /** The figure to derive, as named by the API; empty when closed. */
    figure: string;
    /** What people call it. */
    title: string;
    /** Gives the plan document when a working is wanted. */
    document: () => Plan;
  }
  let { figure = $bindable(), title, document }: Props = $props();
  const asked = new Asked<Schemas['WorkingOut']>();
  let open = $state(false);

  $effect(() => {
    if (!figure) return;
    open = true;
    asked.value = null;
    void asked.ask(() =>
      api.POST('/api/v1/working', { body: { document: untrack(document), figure } }),
    );
  });
  $effect(() => {
    if (!open) figure = '';
  });
</script>

<Modal bind:open {title} size="lg">
  <Failure text={asked.failed} />
  {#if asked.value}
    {#each asked.value.notes as note (note)}<p>{note}</p>{/each}
    <Steps steps={asked.value.steps} />
  {:else if asked.busy}
    <p class="soft">Working it out …</p>
  {/if}
</Modal>
