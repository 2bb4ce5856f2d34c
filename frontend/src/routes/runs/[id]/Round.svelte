<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { small } from '#lib/figures.ts';
  import GloveButton from '#lib/parts/GloveButton.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';

  /**
   * The rest of a round confirmed at once, with the exceptions marked; every bolt still gets its
   * own entry.
   */
  let { run, step, onclose }: { run: Run; step: Schemas['Instruction']; onclose: () => void } =
    $props();
  let open = $state(true);
  const usual = $derived(step.buttons[0]!);
  const other = $derived(step.exception);
  const bolts = $derived([{ step: step.step, label: step.label }, ...step.ahead]);
  let marked = $state<Record<string, boolean>>({});
  const count = $derived(bolts.filter((b) => marked[b.step]).length);
  $effect(() => {
    if (!open) onclose();
  });

  async function confirm() {
    open = false;
    // an exception that nothing simply follows ends the round there: the run asks what to do
    const stopAt = other && !other.follows ? bolts.findIndex((b) => marked[b.step]) : -1;
    const sent = stopAt < 0 ? bolts : bolts.slice(0, stopAt + 1);
    await run.sendAll(
      'answer',
      sent.map((b) => ({
        step: b.step,
        payload: { answer: marked[b.step] && other ? other.answer : usual.answer, whole: true },
      })),
    );
  }
</script>

<Modal
  bind:open
  title={sentence('run.at_once', { pass: step.pass_name, count: bolts.length })}
  size="lg"
>
  <p>
    Every bolt is saved as <b>{small(usual.label)}</b>{#if other}; tap those where <b
        >{small(other.label)}</b
      >{/if}. Only for bolts you have pulled.
  </p>
  <div class="grid grid-cols-4 gap-2 sm:grid-cols-8">
    {#each bolts as bolt (bolt.step)}
      <Button
        color="alternative"
        class="bolt min-h-[60px] justify-center border-2 px-1 text-[1.4rem] font-bold {marked[
          bolt.step
        ]
          ? 'marked border-caution bg-caution-bg underline hover:bg-caution-bg'
          : 'border-hairline'}"
        aria-pressed={!!marked[bolt.step]}
        disabled={!other}
        onclick={() => (marked[bolt.step] = !marked[bolt.step])}>{bolt.label}</Button
      >
    {/each}
  </div>
  <GloveButton look="main" onclick={confirm}
    >{sentence('run.save_bolts', {
      count: bolts.length,
      others: other ? count : 0,
      answer: other ? small(other.label) : '',
    })}</GloveButton
  >
</Modal>
