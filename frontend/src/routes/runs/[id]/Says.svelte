<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { ordinal } from '#lib/figures.ts';
  import { geometryOf } from '#lib/parts/JointFace/geometry.ts';
  import Mark from '#lib/parts/Mark.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';
  import type { Desk } from './desk.svelte.ts';
  import SettingWords from './SettingWords.svelte';

  /**
   * One instruction: where in the work it stands, what stands large, the sentence, what to watch.
   */
  let { run, desk, step }: { run: Run; desk: Desk; step: Schemas['Instruction'] } = $props();
  const setting = $derived(step.settings[0]);
  /**
   * Beside a drawing with room for the number in its middle the number stands smaller here; it
   * stands here in any case.
   */
  const drawn = $derived.by(() => {
    const groups = run.view!.groups;
    const places =
      groups.find((g) => g.places.some((p) => step.places.includes(p.id)))?.places ?? [];
    return !!geometryOf(places, Math.max(30, ...groups.map((g) => g.thread.head_mm))).ring?.inner;
  });
  const stopped = $derived(step.entry === 'decision');
  const heading = $derived(
    [
      sentence('run.pass_round', { pass: step.pass_name ?? step.stage, round: step.round ?? 1 }),
      step.pull ? `pull ${step.pull}` : '',
      step.places.length ? `${ordinal(step.index)} of ${step.total}` : '',
    ].filter(Boolean),
  );
  const more = $derived(
    [step.hint, step.note, step.gauge ? `Use: ${step.gauge}.` : ''].filter(Boolean).join(' '),
  );
  /** Folded after its first reading: at the first bolt of a pass it stands open. */
  const first = $derived(step.index === 1 && (step.round ?? 1) === 1);
  /** Where a screen is lower, the answers come before what is said beside them. */
  const ROOMY = 720;
  let high = $state(0);
  const whole = $derived(first || stopped || !step.places.length);
  const folded = $derived(whole ? [] : step.cautions);
  const force = $derived(
    step.shows === 'setting' && setting?.hand_force_N
      ? sentence('run.at_grip', { force: Math.round(setting.hand_force_N / 5) * 5 })
      : '',
  );
  const beside = $derived([step.socket, force, step.last_gap].filter(Boolean).join(' · '));
  const pad = (n: number) => String(Math.floor(n)).padStart(2, '0');
  const clock = $derived(
    desk.wait > 0
      ? `${desk.wait >= 3600 ? `${Math.floor(desk.wait / 3600)}:` : ''}${pad((desk.wait % 3600) / 60)}:${pad(desk.wait % 60)}`
      : 'over',
  );
  const large = $derived(
    (
      { setting: setting?.figure, turn: step.turn_text, clock } as Record<
        string,
        string | undefined
      >
    )[step.shows] ?? '',
  );
  const behind = $derived(
    step.shows === 'setting'
      ? (setting?.unit ?? '')
      : step.shows === 'turn' && step.turn_back
        ? 'back'
        : '',
  );
</script>

<svelte:window bind:innerHeight={high} />

<div class="grid gap-1 short:gap-0" aria-live="polite">
  <p class="soft text-lg leading-tight">
    {heading.join(' · ')}{#if step.attempt > 1}<b class="text-caution">&nbsp;· again</b>{/if}
  </p>
  {#if step.cautions.length && whole}
    <div class="cautions">
      {#each step.cautions as caution (caution)}
        <p class="flex items-center gap-2 text-[1.05rem] font-semibold">
          <Mark severity="caution" />{caution}
        </p>
      {/each}
    </div>
  {/if}
  {#if step.before_each}<p
      class="first border-l-[5px] border-brine pl-3 text-xl leading-tight font-bold"
    >
      First: {step.before_each}
    </p>{/if}
  {#if large || step.label}
    <div class="row {drawn ? '' : 'numbered'}">
      {#if step.label}
        <p class="bolt">
          {#if step.position}<span class="position">{step.position}</span>{/if}
          <span class="sr-only">Bolt</span>
          <b class="number {step.label.length > 3 ? 'several' : ''}">{step.label}</b>
        </p>
      {/if}
      {#if large}<p class="figure">{large} <span>{behind}</span></p>{/if}
    </div>
  {/if}
  {#if step.shows === 'setting' && setting}
    <SettingWords {setting} changed={step.changed_setting} />
  {:else if step.shows === 'turn'}
    <p class="soft text-[1.15rem]">
      {[step.turn_note, setting ? sentence('run.stop_at', { tool: setting.text }) : '']
        .filter(Boolean)
        .join(' · ')}
    </p>
  {/if}
  {#if step.entry === 'decision'}
    <p class="flex items-center gap-2 text-xl font-extrabold text-stop">
      <Mark severity="stop" />Stop
    </p>
  {/if}
  <p class={large ? 'text-xl short:text-lg short:leading-tight' : 'big'}>{step.text}</p>
  {#if beside}<p class="text-[1.1rem]">{beside}</p>{/if}
  {#if step.watch_for}<p class="text-lg {stopped ? '' : 'max-[500px]:hidden short:hidden'}">
      Watch: {step.watch_for}.
    </p>{/if}
  {#if more}<p class="soft text-[1.15rem] {stopped ? '' : 'max-[500px]:hidden short:hidden'}">
      {more}
    </p>{/if}
  <!-- in full at the first bolt of a pass, then folded: cautions as a mark, what else is said
       behind a word -->
  {#if !stopped && (folded.length || more || step.watch_for)}
    <details
      class="text-[1.05rem] {folded.length ? '' : 'hidden max-[500px]:block short:block'}"
      open={first && !folded.length && high > ROOMY}
    >
      <summary class="flex min-h-[32px] cursor-pointer items-center gap-2"
        >{#if folded.length}<Mark severity="caution" /><b
            >{folded.length === 1 ? 'Caution' : 'Cautions'}</b
          >{/if}<span class="soft hidden max-[500px]:inline short:inline"
          >{step.watch_for ? 'what to watch, hints' : 'hints'}</span
        ></summary
      >
      {#each folded as caution (caution)}<p class="font-semibold">{caution}</p>{/each}
      {#if step.watch_for}<p class="hidden max-[500px]:block short:block">
          Watch: {step.watch_for}.
        </p>{/if}
      {#if more}<p class="soft hidden max-[500px]:block short:block">{more}</p>{/if}
      {#if step.why}<p class="soft hidden max-[500px]:block short:block">Why: {step.why}</p>{/if}
    </details>
  {/if}
  <!-- for a learner, never in the way: one folded line where the screen is high enough -->
  {#if step.why && high > ROOMY}
    <details class="text-[1.05rem] max-[500px]:hidden short:hidden">
      <summary class="min-h-[28px] cursor-pointer font-semibold">Why</summary>
      <p class="soft">{step.why}</p>
    </details>
  {/if}
</div>

<style>
  .figure {
    font-size: clamp(4rem, 9.5vw, 8rem);
    font-weight: 800;
    line-height: 0.95;
    white-space: nowrap;
  }
  .figure span {
    font-size: 0.36em;
    margin-left: -0.4em;
  }
  /* the bolt and where it is: in every state, at every size, larger than any other count */
  .row {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    column-gap: 2rem;
  }
  .bolt {
    display: flex;
    align-items: center;
    gap: 0.8rem;
  }
  .position {
    padding: 0.1rem 0.7rem;
    border-radius: 4px;
    background: var(--ink);
    color: var(--paper);
    font-size: 1.5rem;
    font-weight: 800;
    text-transform: uppercase;
  }
  .number {
    font-size: 4.5rem;
    line-height: 0.9;
    font-weight: 800;
    color: var(--brine);
  }
  .several {
    font-size: 3rem;
    white-space: nowrap;
  }
  .numbered .number {
    font-size: 9.5rem;
    line-height: 0.85;
  }
  .numbered .several {
    font-size: 4.2rem;
  }
  .big {
    font-size: clamp(1.5rem, 2.6vw, 2.1rem);
    font-weight: 700;
    line-height: 1.2;
  }
  /* a plan says things in the middle of its sentences; here they begin one */
  .big::first-letter {
    text-transform: uppercase;
  }
  /* upright tablet: the bolt number stands beside the setting, large enough for two metres */
  @media (min-width: 501px) and (max-width: 900px) and (min-height: 501px) {
    .row {
      column-gap: 2.5rem;
      min-height: 16dvh;
    }
    .row .number {
      font-size: min(306px, 26dvh);
      line-height: 0.74;
      font-weight: 800;
      letter-spacing: -0.02em;
    }
    .row .several {
      font-size: 120px;
      white-space: nowrap;
    }
  }
  @media (max-height: 500px) and (orientation: landscape) {
    .big {
      font-size: 1.2rem;
    }
    .figure {
      font-size: 2.6rem;
    }
    .row {
      column-gap: 1.5rem;
      min-height: 0;
    }
    .row .number,
    .numbered .number {
      font-size: 2.8rem;
      line-height: 1;
    }
    .position {
      font-size: 1rem;
    }
  }
  @media (max-width: 500px) {
    .figure {
      font-size: 3.3rem;
    }
    .row {
      column-gap: 1rem;
    }
    .row .number {
      font-size: 4.2rem;
    }
    .numbered .number {
      font-size: 5.2rem;
    }
    .row .several {
      font-size: 2.8rem;
    }
    .position {
      font-size: 1.15rem;
    }
  }
</style>
