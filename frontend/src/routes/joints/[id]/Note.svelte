<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { api, sentence, type Problem } from '#lib/api/client.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { session } from '#lib/session.svelte.ts';

  /** Parts that were replaced, or a note, for the line of a joint. */
  let { id, onkept }: { id: string; onkept: () => void } = $props();
  let kind = $state<'' | 'replaced' | 'note'>('');
  let words = $state('');
  let error = $state('');
  let failed = $state('');

  async function keep(event: Event) {
    event.preventDefault();
    const answer = await api
      .POST('/api/v1/joints/{id}/entries', { params: { path: { id } }, body: { kind, words } })
      .catch(() => ({ error: {} as Problem }));
    const problem = answer.error as Problem | undefined;
    error = problem?.errors?.find((e) => e.path === 'words')?.text ?? '';
    failed = problem && !error ? sentence(problem) : '';
    if (problem) return;
    kind = '';
    words = '';
    onkept();
  }
</script>

{#if session.may('rechecking.note_entry')}
  {#if kind}
    <form class="flex flex-wrap items-end gap-3 py-2" onsubmit={keep}>
      <div class="min-w-64 flex-1">
        <QuantityField
          label={kind === 'replaced' ? 'Which parts are new' : 'Note'}
          value={words}
          example={kind === 'replaced' ? 'all studs and nuts' : 'what should be known'}
          {error}
          onchange={(text) => (words = text)}
        />
      </div>
      <Button type="submit">Keep it</Button>
      <Button color="alternative" onclick={() => (kind = '')}>Leave it</Button>
    </form>
    <Failure text={failed} />
  {:else}
    <p class="flex gap-4 py-1 text-sm">
      <Word onclick={() => (kind = 'replaced')}>parts were replaced</Word>
      <Word onclick={() => (kind = 'note')}>write a note</Word>
    </p>
  {/if}
{/if}
