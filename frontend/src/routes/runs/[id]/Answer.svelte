<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import Mark from '#lib/parts/Mark.svelte';
  import Decision from './Decision.svelte';
  import Reading from './Reading.svelte';

  /** One instruction with its setting and the answers it takes. */
  interface Props {
    step: Schemas['Instruction'];
    /** Whether this person on this device may answer. */
    may: boolean;
    /** Seconds since 1970, for what has to be waited for. */
    now: number;
    busy: boolean;
    /** Show the bolt's number large here, because the drawing has no room for it. */
    numbered: boolean;
    reading: string;
    last: Schemas['LastAnswer'] | null;
    onanswer: (answer: string, more?: Record<string, unknown>) => void;
    onopen: (which: 'problem' | 'more' | 'suggest' | 'correct' | 'round') => void;
  }
  let { step, may, now, busy, numbered, reading = $bindable(), last, onanswer, onopen }: Props = $props();
  const setting = $derived(step.kind === 'decision' ? undefined : step.settings[0]);
  /** What stands between wrench and bolt, in words. */
  const between = $derived(
    (setting?.links ?? [])
      .map((l) =>
        l.kind === 'adapter'
          ? `offset adapter ${l.text}${l.angle_deg ? ` at ${l.angle_deg.toFixed(0)}°` : ' in line'}`
          : l.kind === 'multiplier'
            ? `multiplier ${l.text}`
            : '',
      )
      .filter(Boolean)
      .join(' and '),
  );
  const first = $derived(step.buttons[0]);
  const others = $derived(step.buttons.slice(1));
  const pullWords = $derived(step.pull ? ` · pull ${step.pull}` : '');
  const heading = $derived(
    [
      `${step.pass_name ?? step.stage}${(step.round ?? 1) > 1 ? `, round ${step.round}` : ''}${pullWords}`,
      step.places.length ? `bolt ${step.index} of ${step.total}` : '',
    ]
      .filter(Boolean)
      .join(' · '),
  );
  const before = $derived(last && last.label !== '-' ? `: ${last.label}` : '');
  const wait = $derived(step.ready_at ? step.ready_at - now : 0);
  const clock = $derived(
    wait > 0
      ? `${Math.floor(wait / 3600) ? `${Math.floor(wait / 3600)}:` : ''}${String(Math.floor((wait % 3600) / 60)).padStart(2, '0')}:${String(Math.floor(wait % 60)).padStart(2, '0')}`
      : '',
  );
</script>

<div class="grid gap-1" aria-live="polite">
  <p class="soft text-lg leading-tight">
    {heading}{#if step.attempt > 1}<b class="text-caution">{' · again'}</b>{/if}
  </p>
  {#each step.cautions as caution (caution)}
    <p class="flex items-center gap-2 text-[1.05rem] font-semibold"><Mark severity="caution" />{caution}</p>
  {/each}
  {#if step.before_each}<p class="first">First: {step.before_each}</p>{/if}
  {#if setting && step.kind !== 'gap'}
    <div class="row {numbered ? 'numbered' : ''}">
      {#if step.label}<p class="number {step.label.length > 3 ? 'several' : ''}" aria-hidden="true">{step.label}</p>{/if}
      <p class="figure">{setting.figure} <span>{setting.unit}</span></p>
    </div>
    <p class="soft text-[1.15rem]">
      {setting.second}{setting.scale ? ` · main mark ${setting.scale.main}, collar ${setting.scale.collar}` : ''} ·
      {#if step.changed_setting}<b class="text-ink"
          >{setting.preset
            ? `take ${setting.tool}`
            : `set ${setting.tool} to this${setting.scale ? ': unlock, set, lock' : ''}`}</b
        >{:else}{setting.tool}{setting.preset ? '' : ', do not change'}{/if}
    </p>
    {#if between}<p class="text-[1.1rem]">With {between}: the bolt gets {setting.bolt_torque_Nm.toFixed(0)} N·m.</p>{/if}
    {#if setting.reaction_Nm}<p class="text-[1.1rem]">
        Reaction {setting.reaction_Nm.toFixed(0)} N·m{setting.links?.find((l) => l.rests_on)
          ? `, rests on ${setting.links.find((l) => l.rests_on)?.rests_on}`
          : ''}: hands clear.
      </p>{/if}
  {:else if ['angle', 'back_off', 'loosen', 'jack', 'gap'].includes(step.kind) && step.turn_deg}
    <div class="row {numbered ? 'numbered' : ''}">
      {#if step.label}<p class="number {step.label.length > 3 ? 'several' : ''}" aria-hidden="true">{step.label}</p>{/if}
      <p class="figure">
        {step.turn_deg % 360 === 0 ? `${step.turn_deg / 360}` : `${step.turn_deg.toFixed(0)}°`}<span
          >{step.turn_deg % 360 === 0 ? (step.turn_deg === 360 ? ' turn' : ' turns') : ''}{step.kind === 'back_off' ||
          step.kind === 'loosen'
            ? ' back'
            : ''}</span
        >
      </p>
    </div>
    <p class="soft text-[1.15rem]">
      {step.turn_deg % 60 === 0 && step.turn_deg < 360
        ? `${step.turn_deg / 60} flat${step.turn_deg === 60 ? '' : 's'} of the hexagon`
        : ''}
      {step.window_deg ? `between ${step.window_deg[0]}° and ${step.window_deg[1]}°` : ''}{step.kind === 'gap' && setting
        ? ` · stop when ${setting.text} clicks`
        : ''}
    </p>
  {:else if step.kind === 'wait'}
    <p class="figure">{clock || 'over'}</p>
  {:else if step.label && ['hand', 'snug', 'feel', 'decision', 'check', 'reading'].includes(step.kind)}
    <div class="row {numbered ? 'numbered' : ''}">
      <p class="number {step.label.length > 3 ? 'several' : ''}" aria-hidden="true">{step.label}</p>
    </div>
  {/if}
  <p class={setting || step.turn_deg ? 'text-xl' : 'big'}>{step.text}</p>
  {#if step.watch_for}<p class="text-lg">Watch: {step.watch_for}.</p>{/if}
  <p class="soft hint">{step.hint}{step.note ? ` ${step.note}` : ''}{step.gauge ? ` Use: ${step.gauge}.` : ''}</p>
</div>

{#if may}
  {#if step.kind === 'decision'}
    <Decision {step} {busy} {onanswer} />
  {:else if step.kind === 'reading' || step.kind === 'gap'}
    <Reading {step} {busy} bind:reading {onanswer} />
  {:else if first}
    <button class="answer main huge" disabled={busy || wait > 0} onclick={() => onanswer(first.answer)}
      ><span>{first.label}</span><kbd>{first.key}</kbd></button
    >
    {#if others.length}
      <div class="pair" style:grid-template-columns="repeat({others.length}, 1fr)">
        {#each others as button (button.answer)}
          <button class="answer" disabled={busy} onclick={() => onanswer(button.answer)}
            ><span>{button.label}</span><kbd>{button.key}</kbd></button
          >
        {/each}
      </div>
    {/if}
  {/if}
  <div class="pair four">
    <button class="answer quiet" onclick={() => onopen('problem')}><span>Something is wrong</span><kbd>w</kbd></button>
    <button class="answer quiet" disabled={!last} onclick={() => onopen('correct')}
      ><span>Correct the last{before}</span><kbd>c</kbd></button
    >
    <button class="answer quiet" disabled={!step.ahead.length} onclick={() => onopen('round')}
      ><span>Whole round</span><kbd>a</kbd></button
    >
    <button class="answer quiet" onclick={() => onopen('more')}><span>More: note, change</span><kbd>t</kbd></button>
  </div>
{:else}
  <p class="soft text-lg">You are looking on: only a fitter or supervisor on the device that holds this run answers.</p>
{/if}

<style>
  .figure {
    font-size: clamp(4rem, 9.5vw, 8rem);
    font-weight: 800;
    line-height: 0.95;
    white-space: nowrap;
  }
  .figure span {
    font-size: 0.36em;
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
  .hint {
    font-size: 1.15rem;
  }
  .first {
    font-size: 1.25rem;
    font-weight: 700;
    border-left: 5px solid var(--brine);
    padding-left: 0.7rem;
    line-height: 1.25;
  }
  .big {
    font-size: clamp(1.5rem, 2.6vw, 2.1rem);
    font-weight: 700;
    line-height: 1.2;
  }
  .pair {
    display: grid;
    gap: 0.6rem;
  }
  .four {
    grid-template-columns: repeat(4, 1fr);
  }
  .answer {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 0.5rem;
    min-height: 64px;
    padding: 0.5rem 1.1rem;
    border: 2px solid var(--ink);
    border-radius: 6px;
    background: var(--sheet);
    font-size: 1.2rem;
    font-weight: 700;
    text-align: left;
    line-height: 1.15;
  }
  .answer:disabled {
    opacity: 0.55;
  }
  .answer kbd {
    font: inherit;
    font-weight: 400;
    font-size: 0.85rem;
    opacity: 0.8;
  }
  .main {
    background: var(--brine);
    border-color: var(--brine);
    color: var(--brine-ink);
  }
  /* a plan says things in the middle of its sentences; here they begin one */
  .big::first-letter {
    text-transform: uppercase;
  }
  .huge {
    min-height: 104px;
    font-size: 1.7rem;
  }
  .quiet {
    border-color: var(--hairline);
    font-weight: 500;
    min-height: 56px;
    font-size: 1rem;
    padding-inline: 0.7rem;
  }
  /* upright tablet: the bolt number stands beside the setting, its digits 40 mm high */
  @media (min-width: 501px) and (max-width: 900px) {
    .row {
      display: flex;
      align-items: center;
      gap: 2.5rem;
      min-height: 232px;
    }
    .number {
      display: block;
      font-size: 306px;
      line-height: 0.74;
      font-weight: 800;
      letter-spacing: -0.02em;
    }
    .row .several {
      font-size: 120px;
      white-space: nowrap;
    }
  }
  @media (max-width: 500px) {
    .hint {
      display: none;
    }
    .four {
      grid-template-columns: repeat(2, 1fr);
    }
    .answer {
      font-size: 1.05rem;
      padding-inline: 0.7rem;
      min-height: 60px;
    }
    .huge {
      min-height: 84px;
      font-size: 1.4rem;
    }
    .quiet {
      font-size: 0.9rem;
      min-height: 56px;
    }
    .quiet kbd {
      display: none;
    }
    .figure {
      font-size: 3.8rem;
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
