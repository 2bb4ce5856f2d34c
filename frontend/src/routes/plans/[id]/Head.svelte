<script lang="ts">
  import Alert from 'flowbite-svelte/Alert.svelte';
  import Button from 'flowbite-svelte/Button.svelte';
  import Textarea from 'flowbite-svelte/Textarea.svelte';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { clock } from '#lib/figures.ts';
  import Crumb from '#lib/parts/Crumb.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import FilePick from '#lib/parts/FilePick.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { session } from '#lib/session.svelte.ts';
  import Release from './Release.svelte';
  import Versions from './Versions.svelte';

  /** What the draft is: where it belongs, its title, how it is kept, and its release. */
  let { bench }: { bench: Bench } = $props();
  let released = $state('');
  let releasing = $state(false);
  let versions = $state(false);
  const view = $derived(bench.view!);
  const mine = $derived(session.may('planning.save_draft'));
  const many = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`;
</script>

<div class="flex flex-wrap items-baseline justify-between gap-x-4 text-sm">
  <Crumb
    steps={[
      [view.equipment_name, `/joints/${view.joint_id}`],
      [view.joint_name, `/joints/${view.joint_id}`],
    ]}
  />
  <p class="flex items-center gap-4">
    <Word onclick={() => (versions = true)}>versions</Word>
    {#if mine}
      <Word href="/api/v1/plans/{bench.id}/file" title="Download the plan as a file">file</Word>
      <FilePick words="from file" accept=".json,application/json" onpick={async (file) => bench.bring(await file.text())} />
    {/if}
  </p>
</div>
<!-- as high as its words: a long title is read whole -->
<Textarea
  class="-ml-1 field-sizing-content w-full resize-none border-transparent bg-transparent px-1 py-0.5 text-[1.45rem] leading-tight font-bold"
  aria-label="Title of the plan"
  rows={1}
  bind:value={() => bench.doc.title, (text) => (bench.doc.title = text.replaceAll('\n', ' '))}
  onkeydown={(event: KeyboardEvent) => event.key === 'Enter' && event.preventDefault()}
  maxlength={120}
/>
<div class="mt-1 mb-3 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
  <span class="soft"
    >Draft {bench.version} · saved {clock(bench.saved)} · {many(bench.stops, 'stop')}, {many(bench.cautions, 'caution')}</span
  >
  {#if mine}
    <Word disabled={!bench.history.canUndo} onclick={bench.undo} title="Ctrl Z">undo</Word>
    <Word disabled={!bench.history.canRedo} onclick={bench.redo} title="Ctrl Shift Z">redo</Word>
  {/if}
  {#if session.may('planning.release')}
    <Button id="release" class="ml-auto min-h-8" onclick={() => (releasing = true)} disabled={bench.stale || bench.stops > 0}
      >Release</Button
    >
  {/if}
</div>
{#if bench.aside}
  <Notice class="mb-3">
    <p>{bench.aside}</p>
    <Word onclick={() => bench.load()}>Open the saved version</Word>
  </Notice>
{/if}
{#if released}
  <Alert role="status" color="primary" border params={{ duration: 0 }} class="mb-3 border-brine"
    >{released} <a href="/joints/{view.joint_id}">Start a run there.</a></Alert
  >
{/if}
<Failure text={bench.failed} class="mb-3" />
{#if releasing}
  <Release
    {bench}
    onclose={() => (releasing = false)}
    onreleased={(number) => (released = `Released as revision ${number}. It is frozen; the draft can go on.`)}
  />
{/if}
{#if versions}<Versions {bench} onclose={() => (versions = false)} />{/if}
