<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { api, problemText, type Problem } from '#lib/api/client.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { session } from '#lib/session.svelte.ts';

  /** What is added to the history of a joint by hand: replaced parts, or a note. */
  let { id, onreplaced, onkept }: { id: string; onreplaced: () => void; onkept: () => void } =
    $props();
  let writing = $state(false);
  let words = $state('');
  let error = $state('');
  let failed = $state('');

  async function keep(event: Event) {
    event.preventDefault();
    const answer = await api
      .POST('/api/v1/joints/{id}/notes', { params: { path: { id } }, body: { words } })
      .catch(() => ({ error: {} as Problem }));
    const problem = answer.error as Problem | undefined;
    error = problem?.errors?.find((e) => e.path === 'words')?.text ?? '';
    failed = problem && !error ? problemText(problem) : '';
    if (problem) return;
    writing = false;
    words = '';
    onkept();
  }
</script>

{#if writing}
  <form class="flex flex-wrap items-end gap-3 py-2" onsubmit={keep}>
    <div class="min-w-64 flex-1">
      <QuantityField
        label="Note"
        value={words}
        example="what should be known"
        {error}
        onchange={(text) => (words = text)}
      />
    </div>
    <Button type="submit">Save</Button>
    <Button color="alternative" onclick={() => (writing = false)}>Cancel</Button>
  </form>
  <Failure text={failed} />
{:else}
  <p class="flex gap-4 py-1 text-sm">
    {#if session.may('rechecking.note_replaced')}<Word onclick={onreplaced}
        >Record replaced parts</Word
      >{/if}
    {#if session.may('rechecking.add_note')}<Word onclick={() => (writing = true)}>Add note</Word
      >{/if}
  </p>
{/if}
