<script lang="ts">
  import { small } from '#lib/figures.ts';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import type { Run } from '#lib/run.svelte.ts';

  /** The rest of a round confirmed at once, with the exceptions marked; every bolt still gets its own entry. */
  let { run, step, onclose }: { run: Run; step: Schemas['Instruction']; onclose: () => void } = $props();
  let open = $state(true);
  const usual = $derived(step.buttons[0]!);
  const other = $derived(
    step.buttons.find((b) => b.answer !== usual.answer && ['turned', 'did_not_turn', 'refuses'].includes(b.answer)),
  );
  const bolts = $derived([{ step: step.step, label: step.label }, ...step.ahead.map((a) => ({ step: a.step, label: a.label }))]);
  let marked = $state<Record<string, boolean>>({});
  const count = $derived(bolts.filter((b) => marked[b.step]).length);
  $effect(() => {
    if (!open) onclose();
  });

  async function confirm() {
    open = false;
    const stopAt = bolts.findIndex((b) => marked[b.step] && other?.answer === 'refuses');
    const sent = stopAt < 0 ? bolts : bolts.slice(0, stopAt + 1);
    await run.sendAll(
      'answer',
      sent.map((b) => ({ step: b.step, payload: { answer: marked[b.step] && other ? other.answer : usual.answer } })),
    );
  }
</script>

<Modal bind:open title="{step.pass_name}: {bolts.length} bolts at once" size="lg" class="!bg-sheet !text-ink">
  <p>
    Every bolt is kept as <b>{small(usual.label)}</b>{#if other}; tap those where <b>{small(other.label)}</b>{/if}. Only for bolts
    you have pulled.
  </p>
  <div class="grid grid-cols-4 gap-2 sm:grid-cols-8">
    {#each bolts as bolt (bolt.step)}
      <button
        class="bolt {marked[bolt.step] ? 'marked' : ''}"
        aria-pressed={!!marked[bolt.step]}
        disabled={!other}
        onclick={() => (marked[bolt.step] = !marked[bolt.step])}>{bolt.label}</button
      >
    {/each}
  </div>
  <button class="act main !min-h-16 w-full !text-xl" onclick={confirm}
    >Keep {bolts.length} bolts{count && other ? `, ${count} × ${small(other.label)}` : ''}</button
  >
</Modal>

<style>
  .bolt {
    min-height: 60px;
    border: 2px solid var(--hairline);
    border-radius: 6px;
    font-size: 1.4rem;
    font-weight: 700;
    background: var(--sheet);
  }
  .marked {
    background: var(--caution-bg);
    border-color: var(--caution);
    text-decoration: underline;
  }
</style>
