<script lang="ts">
  import type { Schemas } from '../../api/client';
  import Chain from './Chain.svelte';

  interface Props {
    /** The setting of one pass on one chain. */
    setting: Schemas['SettingOut'];
    /** Which pass it is for. */
    title: string;
    /** Open the working. */
    onopen?: () => void;
  }
  let { setting, title, onopen }: Props = $props();
  /** A bare wrench needs no picture of its chain. */
  const chained = $derived((setting.links ?? []).length > 1);
  const scale = $derived.by(() => {
    if (!setting.scale) return null;
    const main = Number(setting.scale.main);
    const mark = Number(setting.scale.mark);
    const collar = Number(setting.scale.collar);
    const steps = [2, 1, 0, -1, -2];
    return {
      main: steps.map((s) => ({ s, text: String(Number((main + s * mark).toFixed(3))) })),
      collar: steps.map((s) => ({ s, text: String(Number(((collar + s + mark) % mark).toFixed(3))) })),
    };
  });
</script>

<section class="sheet p-3" aria-label="Wrench setting">
  <div class="flex gap-4">
    <div class="min-w-0 flex-1">
      <p class="soft text-sm">{setting.tool}, {title}: set</p>
      <p class="text-[2.5rem] leading-none font-extrabold whitespace-nowrap">
        {setting.figure} <span class="-ml-2 text-[1.15rem] font-bold">{setting.unit}</span>
      </p>
      <p class="soft mt-1 text-sm">{setting.second}</p>
      {#if setting.hand_force_N}<p class="soft text-sm">hand force {setting.hand_force_N.toFixed(0)} N at the grip</p>{/if}
      {#if setting.links?.find((l) => l.rests_on)}<p class="soft text-sm">
          rests on {setting.links.find((l) => l.rests_on)?.rests_on}
        </p>{/if}
      {#if setting.reaction_Nm}
        <p class="text-sm">
          reaction {setting.reaction_Nm.toFixed(0)} N·m{setting.reaction_N
            ? `, ${setting.reaction_N.toFixed(0)} N at the arm`
            : ''}
        </p>
      {/if}
      {#if onopen}<button class="link text-sm" onclick={onopen}>working</button>{/if}
    </div>
    {#if scale && setting.scale}
      <figure class="shrink-0" aria-label="Reads main mark {setting.scale.main}, collar {setting.scale.collar}">
        <svg viewBox="0 0 150 104" width="150" height="104" aria-hidden="true">
          <rect x="82" y="6" width="62" height="92" rx="7" class="collar" />
          {#each scale.main as line (line.s)}
            <line x1="4" x2="24" y1={52 - line.s * 20} y2={52 - line.s * 20} class={line.s === 0 ? 'at' : 'off'} />
            <text x="66" y={56 - line.s * 20} class={line.s === 0 ? 'here' : ''} text-anchor="end">{line.text}</text>
          {/each}
          {#each scale.collar as line (line.s)}
            <line x1="82" x2="100" y1={52 - line.s * 18} y2={52 - line.s * 18} class={line.s === 0 ? 'at' : 'off'} />
            <text x="112" y={56 - line.s * 18} class={line.s === 0 ? 'here' : ''}>{line.text}</text>
          {/each}
        </svg>
        <figcaption class="soft -mt-1 text-center text-xs">
          main mark {setting.scale.main} + collar {setting.scale.collar}
        </figcaption>
      </figure>
    {/if}
  </div>
  {#if chained}<div class="mt-1"><Chain links={setting.links ?? []} reaction={!!setting.reaction_Nm} /></div>{/if}
</section>

<style>
  .collar {
    fill: var(--paper);
    stroke: var(--hairline);
  }
  .off {
    stroke: var(--rule);
  }
  .at {
    stroke: var(--ink);
    stroke-width: 2.6;
  }
  text {
    font-size: 12px;
    fill: var(--soft);
  }
  .here {
    fill: var(--ink);
    font-weight: 800;
  }
</style>
