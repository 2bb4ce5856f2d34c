<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { session } from '#lib/session.svelte.ts';

  /** How a joint stands by its record; one tap says that somebody had it open. */
  let { joint, onchange }: { joint: Schemas['JointView']; onchange: () => void } = $props();
  const asked = new Asked<unknown>();
  let asking = $state(false);
  let words = $state('');

  async function opened(event: Event) {
    event.preventDefault();
    await asked.ask(() => api.POST('/api/v1/joints/{id}/opened', { params: { path: { id: joint.id } }, body: { words } }));
    if (asked.failed) return;
    asking = false;
    words = '';
    onchange();
  }
</script>

<p class="mb-4 {joint.standing.due ? 'font-semibold text-caution' : ''}">
  By its record: {joint.standing.words}.
  {#if session.may('running.note_opened') && !asking}
    <Word class="ml-2 text-sm" onclick={() => (asking = true)}>somebody had it open</Word>
  {/if}
</p>
{#if asking}
  <form class="sheet mb-4 grid max-w-xl gap-3 p-4" onsubmit={opened}>
    <Label class="grid gap-1"
      >What is known of it
      <Input bind:value={words} maxlength={200} placeholder="who, when, why, as far as anybody knows" autocomplete="off" /></Label
    >
    <p class="soft text-sm">Its bolts then count as of unknown history, and a recheck is due now.</p>
    <Failure text={asked.failed} />
    <p class="flex gap-3">
      <Button type="submit" disabled={asked.busy}>It was open</Button>
      <Button color="alternative" onclick={() => (asking = false)}>No</Button>
    </p>
  </form>
{/if}
