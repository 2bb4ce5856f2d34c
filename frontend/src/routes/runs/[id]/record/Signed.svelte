<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { clock, day } from '#lib/figures.ts';
  import CellMark from '#lib/parts/Record/CellMark.svelte';
  import Fold from '#lib/parts/Fold.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import { sentence } from '#lib/sentence.ts';

  /**
   * Who signed, how the tools stood, and whether the record is as it was written: in plain lines;
   * hashes behind a fold.
   */
  let { view }: { view: Schemas['RecordView'] } = $props();
  const record = $derived(view.record);
</script>

<section>
  <h2 class="border-b border-ink pb-1">Signatures and proof</h2>
  {#each view.signatures as by (by.role)}
    <p class="flex items-center gap-2 border-b py-1">
      {#if by.person}<CellMark kind="done" />{:else}<span class="inline-block w-[15px] text-center"
          >○</span
        >{/if}
      <span class="grow first-letter:uppercase"
        >{by.person ? `${by.person}, ${by.role}` : by.role}</span
      >
      <span class="soft">{by.person ? `${day(by.at)} ${clock(by.at)}` : 'not signed'}</span>
    </p>
  {/each}
  {#each record.tools as t, i (i)}
    <p class="flex items-center gap-2 border-b py-1">
      {#if t.expired}<Mark severity="stop" />{:else}<CellMark kind="done" />{/if}
      <span class="grow"><b>{t.serial}</b> {t.state}</span>
      <span class="soft">{t.pulls} {t.pulls === 1 ? 'pull' : 'pulls'}</span>
    </p>
  {/each}
  <div class="flex gap-2 border-b py-1">
    {#if view.not_proven}<Mark severity="stop" />{:else}<CellMark kind="done" />{/if}
    <p>
      {#if view.not_proven}<b class="text-stop">Changed: {view.not_proven}</b>{:else}{sentence(
          'record.unchanged',
          {
            time: clock(record.ended ?? ''),
          },
        )}
        <span class="soft block text-sm">{sentence('record.entries', { count: view.events })}</span
        >{/if}
    </p>
  </div>
  {#each view.refusals as r, i (i)}<p class="border-b py-1 text-sm">
      <b>refused</b>
      {r.reason} <span class="soft">{r.person}, {clock(r.at)}</span>
    </p>{/each}
  <Fold title="technical proof">
    <p class="soft text-sm">
      <Sentence key="record.plan_hash" values={{ hash: view.plan_hash }} /><br />
      <Sentence key="record.head_hash" values={{ count: view.events, hash: view.head_hash }} />
    </p>
    {#each record.sign_offs as s (s.role)}
      <p class="soft text-sm">
        <Sentence key="record.signed_over" values={{ role: s.role, hash: s.head_hash }} />
      </p>
    {/each}
  </Fold>
</section>
