<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import Mark from '#lib/parts/Mark.svelte';

  /** One instruction with its setting and the answers it takes. */
  interface Props {
    step: Schemas['Instruction'];
    /** Whether this person on this device may answer. */
    may: boolean;
    busy: boolean;
    reading: string;
    last: Schemas['LastAnswer'] | null;
    onanswer: (answer: string, more?: Record<string, unknown>) => void;
    onopen: (which: 'problem' | 'note' | 'suggest' | 'correct') => void;
  }
  let { step, may, busy, reading = $bindable(), last, onanswer, onopen }: Props = $props();
  const setting = $derived(step.settings[0]);
  const first = $derived(step.buttons[0]);
  const others = $derived(step.buttons.slice(1));
  const uid = $props.id();
  const heading = $derived(
    [`${step.pass_name ?? step.stage}${(step.round ?? 1) > 1 ? `, round ${step.round}` : ''}`, step.places.length ? `bolt ${step.index} of ${step.total}` : ''].filter(Boolean).join(' · '),
  );
  const before = $derived(last && last.label !== '-' ? `: ${last.label}` : '');

  function enter(event: Event) {
    event.preventDefault();
    const typed = reading.trim();
    onanswer('value', { value: /^[\d.,\s/-]+$/.test(typed) && step.unit ? `${typed} ${step.unit}` : typed });
  }
</script>

<div class="grid gap-1" aria-live="polite">
  <p class="soft text-lg leading-tight">
    {heading}{#if step.attempt > 1}<b class="text-caution">{' · again'}</b>{/if}
  </p>
  {#each step.cautions as caution (caution)}
    <p class="flex items-center gap-2 text-[1.05rem] font-semibold"><Mark severity="caution" />{caution}</p>
  {/each}
  {#if setting}
    <div class="row">
      {#if step.label}<p class="number" aria-hidden="true">{step.label}</p>{/if}
      <p class="figure">{setting.figure} <span>{setting.unit}</span></p>
    </div>
    <p class="soft text-[1.15rem]">
      {setting.second}{setting.scale ? ` · main mark ${setting.scale.main}, collar ${setting.scale.collar}` : ''} ·
      {#if step.changed_setting}<b class="text-ink">set {setting.tool} to this</b>{:else}{setting.tool}, do not change{/if}
    </p>
    {#if setting.reaction_Nm}<p class="text-[1.1rem]">Reaction {setting.reaction_Nm.toFixed(0)} N·m: hands clear.</p>{/if}
  {/if}
  <p class={setting ? 'text-xl' : 'big'}>{step.text}</p>
  <p class="soft hint">{step.hint}</p>
</div>

{#if may}
  {#if step.kind === 'reading'}
    <form class="grid gap-2" onsubmit={enter}>
      <label for="reading" class="text-lg">Reading{step.limit_text ? `, ${step.limit_text}` : ''}</label>
      <div class="flex gap-2">
        <input id="reading" class="field !text-3xl" inputmode="decimal" autocomplete="off" bind:value={reading} placeholder={step.unit ?? 'mm'} aria-describedby="{uid}-u" />
        <button class="answer main" disabled={busy || !reading.trim()}>Enter</button>
      </div>
      <p id="{uid}-u" class="soft">A figure alone is taken as {step.unit ?? 'mm'}.</p>
    </form>
  {:else if first}
    <button class="answer main huge" disabled={busy} onclick={() => onanswer(first.answer)}><span>{first.label}</span><kbd>{first.key}</kbd></button>
    {#if others.length}
      <div class="pair" style:grid-template-columns="repeat({others.length}, 1fr)">
        {#each others as button (button.answer)}
          <button class="answer" disabled={busy} onclick={() => onanswer(button.answer)}><span>{button.label}</span><kbd>{button.key}</kbd></button>
        {/each}
      </div>
    {/if}
  {/if}
  <div class="pair three">
    <button class="answer quiet" onclick={() => onopen('problem')}><span>Something is wrong</span><kbd>w</kbd></button>
    <button class="answer quiet" disabled={!last} onclick={() => onopen('correct')}><span>Correct the last{before}</span><kbd>c</kbd></button>
    <button class="answer quiet" onclick={() => onopen('suggest')}><span>Change this step</span></button>
  </div>
{:else}
  <p class="soft text-lg">You are looking on: only a fitter or supervisor on the device that holds this run answers.</p>
{/if}

<style>
  .figure { font-size: clamp(4rem, 9.5vw, 8rem); font-weight: 800; line-height: 0.95; white-space: nowrap; }
  .figure span { font-size: 0.36em; }
  .number { display: none; }
  .hint { font-size: 1.15rem; }
  .big { font-size: clamp(1.5rem, 2.6vw, 2.1rem); font-weight: 700; line-height: 1.2; }
  .pair { display: grid; gap: 0.6rem; }
  .three { grid-template-columns: repeat(3, 1fr); }
  .answer { display: flex; align-items: center; justify-content: space-between; gap: 0.5rem; min-height: 64px; padding: 0.5rem 1.1rem; border: 2px solid var(--ink); border-radius: 6px; background: var(--sheet); font-size: 1.2rem; font-weight: 700; text-align: left; line-height: 1.15; }
  .answer:disabled { opacity: 0.55; }
  .answer kbd { font: inherit; font-weight: 400; font-size: 0.85rem; opacity: 0.8; }
  .main { background: var(--brine); border-color: var(--brine); color: var(--brine-ink); }
  .huge { min-height: 104px; font-size: 1.7rem; }
  .quiet { border-color: var(--hairline); font-weight: 500; min-height: 56px; font-size: 1rem; padding-inline: 0.7rem; }
  /* upright tablet: the bolt number stands beside the setting, its digits 40 mm high */
  @media (min-width: 501px) and (max-width: 900px) {
    .row { display: flex; align-items: center; gap: 2.5rem; min-height: 232px; }
    .number { display: block; font-size: 306px; line-height: 0.74; font-weight: 800; letter-spacing: -0.02em; }
  }
  @media (max-width: 500px) {
    .hint { display: none; }
    .answer { font-size: 1.05rem; padding-inline: 0.7rem; min-height: 60px; }
    .huge { min-height: 84px; font-size: 1.4rem; }
    .quiet { font-size: 0.9rem; min-height: 56px; }
    .quiet kbd { display: none; }
    .figure { font-size: 3.8rem; }
  }
</style>
