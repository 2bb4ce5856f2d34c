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

  /** A line as the manual has it; what it says stands beside its words, and is taken over or dropped piece by piece. */
  let { bench, group }: { bench: Bench; group: string } = $props();
  const read = new Asked<Schemas['ProposedOut']>();
  let text = $state('');
  let done = $state.raw<Record<number, string>>({});
  let list = $state<HTMLElement>();
  const uid = $props.id();

  async function ask(event: Event) {
    event.preventDefault();
    done = {};
    await read.ask(() => api.POST('/api/v1/manual-lines', { body: { document: $state.snapshot(bench.doc), group, text } }));
    // work goes on at what was found
    await tick();
    list?.querySelector<HTMLElement>('button')?.focus();
  }
  /** A line is read when it ends; Shift keeps it going. */
  const entered = (event: KeyboardEvent) => event.key === 'Enter' && !event.shiftKey && text.trim() && void ask(event);
  $effect(() => {
    if (!bench.manual) return;
    bench.manual = false;
    void tick().then(() => tick().then(() => (document.getElementById(`${uid}-t`) as HTMLTextAreaElement | null)?.select()));
  });
  const left = $derived((read.value?.items ?? []).flatMap((item, i) => (item.act && !done[i] ? [i] : [])));
  async function takeAll() {
    for (const i of left) await take(read.value!.items[i]!, i);
  }
  async function take(item: Schemas['Proposal'], index: number) {
    // the next proposal is taken from here
    await bench.act(item.act ?? '', item.params ?? {}, true);
    done = { ...done, [index]: 'taken' };
  }
</script>

<Fold title="A line from the manual" more="reads what it says" open={bench.manual}>
  <form class="grid gap-2" onsubmit={ask}>
    <Label for="{uid}-t">The line as it stands there</Label>
    <Textarea
      id="{uid}-t"
      class="w-full"
      rows={3}
      maxlength={4000}
      bind:value={text}
      onkeydown={entered}
      placeholder="Torque to 110 N·m (81 ft-lb) in three steps crosswise, recheck after 50 km"
    />
    <Button type="submit" color="alternative" class="justify-self-start" disabled={!text.trim() || read.busy}>Read it</Button>
  </form>
  <Failure text={read.failed} />
  {#if read.value}
    <div class="grid gap-2" bind:this={list}>
      {#if left.length > 1}<Word class="justify-self-start" onclick={takeAll}>take all of it over</Word>{/if}
      <ul class="grid gap-2">
        {#each read.value.items as item, i (i)}
          <li class="border-l-2 border-hairline pl-3">
            <span class="soft text-sm">“{item.words}”</span><br />{item.says}
            {#if done[i]}<b class="text-sm">{done[i]}</b>
            {:else}
              {#if item.act}<Word onclick={() => take(item, i)}>take it over</Word>{/if}
              <Word class="ml-3" onclick={() => (done = { ...done, [i]: 'dropped' })}>drop</Word>
            {/if}
          </li>
        {:else}<li>Nothing in it was understood.</li>{/each}
      </ul>
    </div>
    {#if read.value.left.length}<p class="text-caution">Not understood: {read.value.left.join(' ')}</p>{/if}
  {/if}
</Fold>
