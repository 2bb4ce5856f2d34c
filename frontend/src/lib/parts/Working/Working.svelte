<script lang="ts">
  import { untrack } from 'svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import { api, sentence, type Schemas } from '../../api/client';

  interface Props {
    /** The figure to derive, as named by the API; empty when closed. */
    figure: string;
    /** What people call it. */
    title: string;
    /** Gives the plan document when a working is wanted. */
    document: () => Record<string, unknown>;
  }
  let { figure = $bindable(), title, document }: Props = $props();
  let working = $state<Schemas['WorkingOut'] | null>(null);
  let error = $state('');
  let open = $state(false);

  $effect(() => {
    if (!figure) return;
    open = true;
    working = null;
    error = '';
    api.POST('/api/v1/working', { body: { document: untrack(document), figure } }).then(({ data, error: problem }) => {
      if (data) working = data;
      else error = sentence(problem);
    });
  });
  $effect(() => {
    if (!open) figure = '';
  });
  const formula = import('./Formula.svelte');
</script>

<Modal bind:open {title} size="lg" class="!bg-sheet !text-ink">
  {#if error}
    <p class="text-stop" role="alert">{error}</p>
  {:else if working}
    {#await formula then { default: Formula }}
      {#each working.notes as note (note)}<p>{note}</p>{/each}
      <ol class="grid gap-4">
        {#each working.steps as step, i (i)}
          <li class="border-t pt-3">
            <p class="soft text-sm">{step.result_words}</p>
            <div class="my-1 text-lg"><Formula tex={step.tex} display /></div>
            <table class="text-sm">
              <tbody>
                {#each step.inputs as input (input.tex)}
                  <tr
                    ><td class="pr-3"><Formula tex={input.tex} /></td><td class="pr-6">{input.words}</td><td
                      class="text-right font-semibold">{input.value}</td
                    ></tr
                  >
                {/each}
              </tbody>
            </table>
            <p class="mt-2 font-bold"><Formula tex={step.result_tex} /> = {step.result}</p>
            <p class="soft text-sm">{step.source}{step.approximation ? ` · approximation: ${step.approximation}` : ''}</p>
          </li>
        {/each}
      </ol>
    {/await}
  {:else}
    <p class="soft">Working it out …</p>
  {/if}
</Modal>
