<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { geometryOf } from '#lib/parts/JointFace/geometry.ts';
  import Mark from '#lib/parts/Mark.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import type { Desk } from './desk.svelte.ts';
  import SettingWords from './SettingWords.svelte';

  /** One instruction: where in the work it stands, what stands large, the sentence, what to watch. */
  let { run, desk, step }: { run: Run; desk: Desk; step: Schemas['Instruction'] } = $props();
  const setting = $derived(step.settings[0]);
  /** The bolt's number stands large here where the drawing has no room for it. */
  const numbered = $derived.by(() => {
    const groups = run.view!.groups;
    const places = groups.find((g) => g.places.some((p) => step.places.includes(p.id)))?.places ?? [];
    return places.length > 0 && !geometryOf(places, Math.max(30, ...groups.map((g) => g.thread.head_mm))).ring?.inner;
  });
  const heading = $derived(
    [
      `${step.pass_name ?? step.stage}${(step.round ?? 1) > 1 ? `, round ${step.round}` : ''}`,
      step.pull ? `pull ${step.pull}` : '',
      step.places.length ? `bolt ${step.index} of ${step.total}` : '',
    ].filter(Boolean),
  );
  const more = $derived([step.hint, step.note, step.gauge ? `Use: ${step.gauge}.` : ''].filter(Boolean).join(' '));
  /** Folded after its first reading: at the first bolt of a pass it stands open. */
  const first = $derived(step.index === 1 && (step.round ?? 1) === 1);
  /** Where a screen is lower, the answers come before what is said beside them. */
  const ROOMY = 720;
  let high = $state(0);
  const folded = $derived(first || !step.places.length ? [] : step.cautions);
  const force = $derived(
    step.shows === 'setting' && setting?.hand_force_N ? `${Math.round(setting.hand_force_N / 5) * 5} N at the grip` : '',
  );
  const beside = $derived([step.socket, force, step.last_gap].filter(Boolean).join(' · '));
  const pad = (n: number) => String(Math.floor(n)).padStart(2, '0');
  const clock = $derived(
    desk.wait > 0
      ? `${desk.wait >= 3600 ? `${Math.floor(desk.wait / 3600)}:` : ''}${pad((desk.wait % 3600) / 60)}:${pad(desk.wait % 60)}`
      : 'over',
  );
  const large = $derived(
    ({ setting: setting?.figure, turn: step.turn_text, clock } as Record<string, string | undefined>)[step.shows] ?? '',
  );
  const behind = $derived(
    step.shows === 'setting' ? (setting?.unit ?? '') : step.shows === 'turn' && step.turn_back ? 'back' : '',
  );
</script>

<svelte:window bind:innerHeight={high} />

<div class="grid gap-1 short:gap-0" aria-live="polite">
  <p class="soft text-lg leading-tight">
    {heading.join(' · ')}{#if step.attempt > 1}<b class="text-caution">&nbsp;· again</b>{/if}
  </p>
  {#if step.cautions.length && (first || !step.places.length)}
    <div class="cautions">
      {#each step.cautions as caution (caution)}
        <p class="flex items-center gap-2 text-[1.05rem] font-semibold"><Mark severity="caution" />{caution}</p>
      {/each}
    </div>
  {/if}
  {#if step.before_each}<p class="first border-l-[5px] border-brine pl-3 text-xl leading-tight font-bold">
      First: {step.before_each}
    </p>{/if}
  {#if large || (step.label && step.shows === 'label')}
    <div class="row {numbered ? 'numbered' : ''}">
      {#if step.label}<p class="number {step.label.length > 3 ? 'several' : ''}" aria-hidden="true">{step.label}</p>{/if}
      {#if large}<p class="figure">{large} <span>{behind}</span></p>{/if}
    </div>
  {/if}
  {#if step.shows === 'setting' && setting}
    <SettingWords {setting} changed={step.changed_setting} />
  {:else if step.shows === 'turn'}
    <p class="soft text-[1.15rem]">
      {[step.turn_note, setting ? `stop when ${setting.text} clicks` : ''].filter(Boolean).join(' · ')}
    </p>
  {/if}
  {#if step.entry === 'decision'}
    <p class="flex items-center gap-2 text-xl font-extrabold text-stop"><Mark severity="stop" />Stop</p>
  {/if}
  <p class={large ? 'text-xl short:text-lg short:leading-tight' : 'big'}>{step.text}</p>
  {#if beside}<p class="text-[1.1rem]">{beside}</p>{/if}
  {#if step.watch_for}<p class="text-lg max-[500px]:hidden short:hidden">Watch: {step.watch_for}.</p>{/if}
  {#if more}<p class="soft text-[1.15rem] max-[500px]:hidden short:hidden">{more}</p>{/if}
  <!-- in full at the first bolt of a pass, then folded: cautions as a mark, what else is said behind a word -->
  {#if folded.length || more || step.watch_for}
    <details
      class="text-[1.05rem] {folded.length ? '' : 'hidden max-[500px]:block short:block'}"
      open={first && !folded.length && high > ROOMY}
    >
      <summary class="flex min-h-[32px] cursor-pointer items-center gap-2"
        >{#if folded.length}<Mark severity="caution" /><b>{folded.length === 1 ? 'Caution' : 'Cautions'}</b>{/if}<span
          class="soft hidden max-[500px]:inline short:inline">{step.watch_for ? 'what to watch, hints' : 'hints'}</span
        ></summary
      >
      {#each folded as caution (caution)}<p class="font-semibold">{caution}</p>{/each}
      {#if step.watch_for}<p class="hidden max-[500px]:block short:block">Watch: {step.watch_for}.</p>{/if}
      {#if more}<p class="soft hidden max-[500px]:block short:block">{more}</p>{/if}
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
  .number {
    display: none;
  }
  .numbered {
    display: flex;
    align-items: center;
    gap: 2rem;
  }
  .numbered .number {
    display: block;
    font-size: 9.5rem;
    line-height: 0.85;
    font-weight: 800;
    color: var(--brine);
  }
  .numbered .several {
    font-size: 4.2rem;
    white-space: nowrap;
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
      display: flex;
      align-items: center;
      gap: 2.5rem;
      min-height: 16dvh;
    }
    .row .number {
      display: block;
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
      display: flex;
      align-items: center;
      gap: 1.5rem;
      min-height: 0;
    }
    .row .number,
    .numbered .number {
      font-size: 2.8rem;
    }
    .row .number {
      display: block;
      line-height: 1;
      font-weight: 800;
    }
  }
  @media (max-width: 500px) {
    .figure {
      font-size: 3.3rem;
    }
    .numbered {
      gap: 1rem;
    }
    .numbered .number {
      font-size: 5.2rem;
    }
    .numbered .several {
      font-size: 2.8rem;
    }
  }
</style>
