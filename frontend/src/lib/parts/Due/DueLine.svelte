<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { whole } from '#lib/figures.ts';
  import Mark from '#lib/parts/Mark.svelte';
  import { session } from '#lib/session.svelte.ts';

  /** One joint to look at: when, how sure that is, why, and the way there. */
  interface Props {
    due: Schemas['DueView'];
    /** On the page of the joint itself the joint is not named again. */
    here?: boolean;
    onhappened?: (rule: string) => void;
  }
  let { due, here = false, onhappened }: Props = $props();
  const late = $derived(due.state === 'overdue');
  const now = $derived(late || due.state === 'due');
  const WORDS: Record<string, string> = { overdue: 'overdue since', due: 'due', soon: 'due', later: 'due' };
  const between = $derived(due.low && due.high && due.low !== due.high ? `${whole(due.low)} to ${whole(due.high)}` : '');
  const start = $derived(`/joints/${due.joint_id}?start=${due.revision_id}&occasion=${due.occasion}`);
</script>

<li class="grid grid-cols-[20px_1fr] gap-x-3 border-b py-2 sm:grid-cols-[20px_1fr_auto]">
  <span class="pt-1"
    >{#if late}<Mark severity="stop" />{:else if now}<Mark severity="caution" />{/if}</span
  >
  <div class="min-w-0">
    <p>
      {#if !here}<a href="/joints/{due.joint_id}" class="font-bold">{due.equipment_name} › {due.joint_name}</a>{/if}
      <b class="font-semibold {here ? '' : 'ml-1'}">{due.occasion_text}</b>
      {#if due.day}<span class={late ? 'font-semibold text-stop' : now ? 'font-semibold text-caution' : ''}
          >{WORDS[due.state]} {whole(due.day)}</span
        >{:else}<span class="soft">no day yet</span>{/if}
      {#if between}<span class="soft text-sm">({between})</span>{/if}
    </p>
    <p class="soft text-sm">{due.why}</p>
  </div>
  <div class="col-start-2 mt-1 sm:col-start-3 sm:mt-0">
    {#if due.waits && onhappened && session.may('rechecking.say_happened')}
      <Button color="alternative" onclick={() => onhappened(due.rule)}>It has happened</Button>
    {:else if due.revision_id && session.may('running.start_run')}
      <Button color={now ? 'primary' : 'alternative'} href={start}>{due.occasion_text}</Button>
    {/if}
  </div>
</li>
