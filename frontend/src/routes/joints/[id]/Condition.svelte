<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { day, whole } from '#lib/figures.ts';
  import ConditionMark from '#lib/parts/Condition/ConditionMark.svelte';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /** The condition of a joint: one row a position, the worst first. */
  interface Props {
    view: Schemas['ConditionView'];
    glyph: Schemas['JointView']['glyph'];
    /** Asks for one of the acts on a position. */
    onact: (act: 'use-as-is', position: string) => void;
    onstart: (revision: string, occasion: string) => void;
  }
  let { view, glyph, onact, onstart }: Props = $props();
  type Due = Schemas['DueView'];
  const WORDS: Record<string, string> = { do_not_use: 'text-stop', proven: 'text-ink' };
  const days = (due: Due) =>
    !due.day
      ? 'no day yet'
      : due.low !== due.high && due.low && due.high
        ? `${whole(due.low)} to ${whole(due.high)}`
        : whole(due.day);
  /** Bolts are drawn with their load where the record says that they have it. */
  const looks = (known: boolean) =>
    Object.fromEntries(
      (glyph?.places ?? []).map((p) => [
        p.id,
        { state: 'full' as const, percent: known ? 100 : 0 },
      ]),
    );
  const late = (due: Due) => due.state === 'overdue';
</script>

<section aria-label="Condition">
  {#each view.rows as row, i (row.position + row.name + row.word + i)}
    <div
      class="grid gap-x-6 gap-y-2 border-b py-4 sm:grid-cols-[96px_minmax(0,1.1fr)_minmax(0,2fr)] lg:grid-cols-[96px_220px_1.3fr_1fr_230px]"
    >
      <div class="h-[84px] w-[84px] max-sm:hidden">
        {#if glyph}<JointFace
            places={glyph.places}
            acrossFlats={glyph.across_flats_mm}
            glyph
            looks={looks(row.known)}
            label="Joint to scale"
          />{/if}
      </div>
      <div>
        <p class="soft text-sm lg:hidden">Condition</p>
        <p class="flex items-center gap-2 text-xl font-bold {WORDS[row.word] ?? 'text-caution'}">
          <ConditionMark word={row.word} />{row.title}
        </p>
        <p>
          <b class="inline-block font-semibold first-letter:uppercase">{row.name}</b
          >{#if row.since}<span class="soft">, since {day(row.since)}</span>{/if}
        </p>
        {#if row.looked_at}<p class="soft text-sm">
            {sentence('joint.last_recheck', { day: day(row.looked_at) })}
          </p>{/if}
      </div>
      <div>
        <p class="soft text-sm">Why</p>
        <p>{row.why}</p>
      </div>
      <div class="max-lg:sm:col-start-3">
        <p class="soft text-sm">What clears it</p>
        <p class={row.word === 'proven' ? 'soft' : ''}>{row.clears}</p>
        {#if row.acceptable}
          <p class="mt-1 flex flex-wrap gap-x-4">
            {#if session.may('rechecking.use_as_is')}<Word
                onclick={() => onact('use-as-is', row.position)}>Accept with conditions</Word
              >{/if}
          </p>
        {/if}
      </div>
      <div class="max-lg:sm:col-start-3">
        <p class="soft text-sm">Next</p>
        {#each row.dues as due (due.rule)}
          <p class="mb-1">
            <b class="font-semibold {late(due) ? 'text-stop' : ''}"
              >{due.occasion_text}, {late(due) ? 'overdue since ' : ''}{days(due)}</b
            >
            {#if !due.by_condition}<span class="soft block text-sm">{due.why}</span>{/if}
            {#if due.revision_id && session.may('running.start_run') && !view.going}
              <Button
                size="sm"
                class="mt-1"
                color={i === 0 && due === row.dues[0] ? 'primary' : 'alternative'}
                onclick={() => onstart(due.revision_id!, due.occasion)}>{due.occasion_text}</Button
              >{/if}
          </p>
        {:else}<p class="soft">Nothing planned.</p>{/each}
      </div>
    </div>
  {:else}<p class="soft py-3">No plan is released yet: nothing is known of this joint.</p>{/each}
</section>
