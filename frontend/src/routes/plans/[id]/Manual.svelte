<script lang="ts">
  import { tick } from 'svelte';
  import Button from 'flowbite-svelte/Button.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Textarea from 'flowbite-svelte/Textarea.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Fold from '#lib/parts/Fold.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';

  /**
   * A line as the manual has it; what it says stands beside its words, and is taken over or dropped
   * piece by piece.
   */
  let { bench, group }: { bench: Bench; group: string } = $props();
  const read = new Asked<Schemas['ProposedOut']>();
  let text = $state('');
  let done = $state.raw<Record<number, string>>({});
  let list = $state<HTMLElement>();
  const uid = $props.id();

  async function ask(event: Event) {
    event.preventDefault();
    done = {};
    asked = text;
    await read.ask(() =>
      api.POST('/api/v1/manual-lines', {
        body: { document: $state.snapshot(bench.doc), group, text },
      }),
    );
    // work goes on at what was found
    await tick();
    list?.querySelector<HTMLElement>('button')?.focus();
  }
  /** A line is read when it ends; Shift keeps it going. */
  const entered = (event: KeyboardEvent) =>
    event.key === 'Enter' && !event.shiftKey && text.trim() && void ask(event);
  $effect(() => {
    if (!bench.manual) return;
    bench.manual = false;
    void tick().then(() =>
      tick().then(() =>
        (document.getElementById(`${uid}-t`) as HTMLTextAreaElement | null)?.select(),
      ),
    );
  });
  /** What is taken at once: of two readings nobody chooses but the planner. */
  const left = $derived(
    (read.value?.items ?? []).flatMap((item, i) =>
      item.act && !item.either && !done[i] ? [i] : [],
    ),
  );
  /** The line in pieces: words that were used, words that were not, and what says nothing. */
  let asked = $state('');
  const pieces = $derived.by(() => {
    const out: { text: string; look: string }[] = [];
    let at = 0;
    for (const mark of read.value?.marks ?? []) {
      if (mark.start < at) continue;
      out.push({ text: asked.slice(at, mark.start), look: '' });
      out.push({
        text: asked.slice(mark.start, mark.end),
        look: mark.about ? 'bg-tint font-semibold' : 'text-caution underline decoration-dotted',
      });
      at = mark.end;
    }
    return [...out, { text: asked.slice(at), look: '' }];
  });
  async function takeAll() {
    for (const i of left) await take(read.value!.items[i]!, i);
  }
  async function take(item: Schemas['Proposal'], index: number) {
    // the next proposal is taken from here
    await bench.act(item.act ?? '', item.params ?? {}, true);
    const others = (read.value?.items ?? []).flatMap((other, i) =>
      item.either && other.either === item.either ? [i] : [],
    );
    done = { ...done, ...Object.fromEntries(others.map((i) => [i, 'Discarded'])), [index]: 'Used' };
  }
</script>

<Fold title="From a manual" more="reads a line" open={bench.manual}>
  <form class="grid gap-2" onsubmit={ask}>
    <Label for="{uid}-t">Text from the manual</Label>
    <Textarea
      id="{uid}-t"
      class="w-full"
      rows={3}
      maxlength={4000}
      bind:value={text}
      onkeydown={entered}
      placeholder="Torque to 110 N·m (81 ft-lb) in three steps crosswise, recheck after 50 km"
    />
    <Button
      type="submit"
      color="alternative"
      class="justify-self-start"
      disabled={!text.trim() || read.busy}>Read text</Button
    >
  </form>
  <Failure text={read.failed} />
  {#if read.value}
    <p class="whitespace-pre-wrap" aria-label="Line as read">
      {#each pieces as piece, i (i)}<span class={piece.look}>{piece.text}</span>{/each}
    </p>
    <div class="grid gap-2" bind:this={list}>
      {#if left.length > 1}<Word class="justify-self-start" onclick={takeAll}>Use all</Word>{/if}
      <ul class="grid gap-2">
        {#each read.value.items as item, i (i)}
          <li class="border-l-2 border-hairline pl-3">
            <span class="soft text-sm"
              >{sentence('bench.read_words', {
                words: item.words,
                either: item.either ? 'yes' : 'no',
              })}</span
            ><br />{item.says}
            {#if done[i]}<b class="text-sm">{done[i]}</b>
            {:else}
              {#if item.act}<Word onclick={() => take(item, i)}>Use</Word>{/if}
              <Word class="ml-3" onclick={() => (done = { ...done, [i]: 'Discarded' })}
                >Discard</Word
              >
            {/if}
          </li>
        {:else}<li>Nothing in it was understood.</li>{/each}
      </ul>
    </div>
    {#if read.value.left.length}<p class="text-caution">
        {sentence('bench.not_used', { words: read.value.left.join(' ') })}
      </p>{/if}
  {/if}
</Fold>
