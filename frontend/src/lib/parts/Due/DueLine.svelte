<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { whole } from '#lib/figures.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /** One joint to look at: when, how sure that is, why, and the way there. */
  interface Props {
    due: Schemas['DueView'];
    /** On the page of the joint itself the joint is not named again. */
    here?: boolean;
    /** The most urgent line: its action is the filled button. */
    first?: boolean;
    onhappened?: (rule: string) => void;
  }
  let { due, here = false, first = false, onhappened }: Props = $props();
  const late = $derived(due.state === 'overdue');
  const now = $derived(late || due.state === 'due');
  const WORDS: Record<string, string> = {
    overdue: 'overdue since',
    due: 'due',
    soon: 'due',
    later: 'due',
  };
  const between = $derived(
    due.low && due.high && due.low !== due.high ? `${whole(due.low)} to ${whole(due.high)}` : '',
  );
  const start = $derived(
    `/joints/${due.joint_id}?start=${due.revision_id}&occasion=${due.occasion}`,
  );
  const action = $derived(`Start: ${due.occasion_text.toLowerCase()}`);
</script>

<li
  class="grid grid-cols-[18px_minmax(0,1fr)] items-center gap-x-3 border-b py-1.5 {due.glyph
    ? 'sm:grid-cols-[18px_34px_minmax(0,1fr)_auto]'
    : 'sm:grid-cols-[18px_minmax(0,1fr)_auto]'}"
>
  <span class="self-start pt-1"
    >{#if now}<Mark severity="caution" />{/if}</span
  >
  {#if due.glyph}<span class="hidden h-[34px] w-[34px] sm:block"
      ><JointFace
        places={due.glyph.places}
        acrossFlats={due.glyph.across_flats_mm}
        glyph
        label={sentence('joint.face', { joint: due.joint_name })}
      /></span
    >{/if}
  <div class="min-w-0">
    <p>
      {#if !here}<a href="/joints/{due.joint_id}" class="font-bold"
          >{due.equipment_name} › {due.joint_name}</a
        >{/if}
      <b class="font-semibold {here ? '' : 'ml-1'}">{due.occasion_text}</b>
      {#if due.day}<span
          class={late ? 'font-semibold text-stop' : now ? 'font-semibold text-caution' : ''}
          >{WORDS[due.state]} {whole(due.day)}</span
        >{:else}<span class="soft">no day yet</span>{/if}
      {#if between}<span class="soft text-sm">({between})</span>{/if}
    </p>
    <p class="soft text-sm">{due.why}</p>
  </div>
  <div class="max-sm:col-start-2">
    {#if due.waits && onhappened && session.may('rechecking.say_happened')}
      <Word onclick={() => onhappened(due.rule)}>Report event</Word>
    {:else if due.revision_id && session.may('running.start_run')}
      {#if first}<Button href={start}>{action}</Button>{:else}<Word href={start}>{action}</Word
        >{/if}
    {/if}
  </div>
</li>
