<script lang="ts">
  import Alert from 'flowbite-svelte/Alert.svelte';
  import Button from 'flowbite-svelte/Button.svelte';
  import Textarea from 'flowbite-svelte/Textarea.svelte';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { clock } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import FilePick from '#lib/parts/FilePick.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import Notice from '#lib/parts/Notice.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';
  import Release from './Release.svelte';
  import Versions from './Versions.svelte';

  /** What the draft is: where it belongs, its title, how it is saved, and its release. */
  let { bench }: { bench: Bench } = $props();
  let released = $state('');
  let releasing = $state(false);
  let versions = $state(false);
  const view = $derived(bench.view!);
  const mine = $derived(session.may('planning.edit_draft'));
</script>

<PageHead
  where={[
    [view.equipment_name, `/joints/${view.joint_id}`],
    [view.joint_name, `/joints/${view.joint_id}`],
  ]}
>
  {#snippet title()}
    <!-- as high as its words: a long title is read whole -->
    <Textarea
      class="-ml-1 field-sizing-content pointer-coarse:min-h-[48px] w-full resize-none border-transparent bg-transparent px-1 py-0 text-[1.5rem] leading-tight font-bold"
      aria-label="Title of the plan"
      rows={1}
      bind:value={() => bench.doc.title, (text) => (bench.doc.title = text.replaceAll('\n', ' '))}
      onkeydown={(event: KeyboardEvent) => event.key === 'Enter' && event.preventDefault()}
      maxlength={120}
    />
  {/snippet}
  {#snippet quiet()}
    {#if mine}
      <Word disabled={!bench.history.canUndo} onclick={bench.undo} title="Ctrl Z">Undo</Word>
      <Word disabled={!bench.history.canRedo} onclick={bench.redo} title="Ctrl Shift Z">Redo</Word>
    {/if}
    <Word onclick={() => (versions = true)}>Compare revisions</Word>
    {#if mine}
      <Word href="/api/v1/plans/{bench.id}/file" title="Download the plan as a file"
        >Export plan</Word
      >
      <FilePick
        words="Import plan …"
        accept=".json,application/json"
        onpick={async (file) => bench.bring(await file.text())}
      />
    {/if}
  {/snippet}
  {#snippet state()}
    <b>Draft {bench.version}</b>, saved {clock(bench.saved)}<br />
    {#if bench.wrong.length}<b class="text-stop"
        >{sentence('bench.wrong_fields', { count: bench.wrong.length })}</b
      >, not computed
    {:else if bench.stale}not computed
    {:else}
      <span class="inline-flex items-center gap-1.5">
        {#if bench.stops}<Mark severity="stop" /><b class="text-stop"
            >{sentence('bench.errors', { count: bench.stops })}</b
          >{:else}no errors{/if},
        {#if bench.cautions}<Mark severity="caution" /><b class="text-caution"
            >{sentence('bench.warnings', { count: bench.cautions })}</b
          >{:else}no warnings{/if}
      </span>
    {/if}
  {/snippet}
  {#snippet main()}
    {#if session.may('planning.release')}
      <Button
        id="release"
        onclick={() => (releasing = true)}
        disabled={bench.stale || bench.stops > 0}>Release plan</Button
      >
    {/if}
  {/snippet}
</PageHead>
{#if bench.aside}
  <Notice class="m-3">
    <p>{bench.aside}</p>
    <Word onclick={() => bench.load()}>Open the saved version</Word>
  </Notice>
{/if}
{#if released}
  <Alert role="status" color="primary" border params={{ duration: 0 }} class="m-3 border-brine"
    >{released} <a href="/joints/{view.joint_id}">Open the joint to start a run.</a></Alert
  >
{/if}
<Failure text={bench.failed} class="m-3" />
{#if releasing}
  <Release
    {bench}
    onclose={() => (releasing = false)}
    onreleased={(number) => (released = sentence('bench.released', { number }))}
  />
{/if}
{#if versions}<Versions {bench} onclose={() => (versions = false)} />{/if}
