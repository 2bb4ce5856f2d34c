<script lang="ts">
  import { sentence } from '#lib/sentence.ts';
  import type { Schemas } from '../../api/client';
  import Word from '../Word.svelte';
  import Chain from './Chain.svelte';
  import Scale from './Scale.svelte';

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
</script>

<section class="sheet p-3" aria-label="Wrench setting">
  <div class="flex gap-4">
    <div class="min-w-0 flex-1">
      <p class="soft text-sm">{sentence('wrench.set', { tool: setting.tool, pass: title })}</p>
      <p class="text-[2.5rem] leading-none font-extrabold whitespace-nowrap">
        {setting.figure} <span class="-ml-2 text-[1.15rem] font-bold">{setting.unit}</span>
      </p>
      <p class="soft mt-1 text-sm">{setting.second}</p>
      {#if setting.corrected}<p class="text-sm font-semibold text-caution">
          {setting.corrected}
        </p>{/if}
      {#if setting.hand_force_N}<p class="soft text-sm">
          {sentence('wrench.hand_force', { force: setting.hand_force_N.toFixed(0) })}
        </p>{/if}
      {#if setting.links?.find((l) => l.rests_on)}<p class="soft text-sm">
          {sentence('wrench.rests_on', {
            place: setting.links.find((l) => l.rests_on)?.rests_on ?? '',
          })}
        </p>{/if}
      {#if setting.reaction_Nm}
        <p class="text-sm">
          {sentence('wrench.reaction', {
            torque: setting.reaction_Nm.toFixed(0),
            force: setting.reaction_N?.toFixed(0) ?? 'none',
          })}
        </p>
      {/if}
      {#if onopen}<Word class="text-sm" onclick={onopen}>Show working</Word>{/if}
    </div>
    {#if setting.scale}<Scale scale={setting.scale} />{/if}
  </div>
  {#if chained}<div class="mt-1">
      <Chain links={setting.links ?? []} reaction={!!setting.reaction_Nm} />
    </div>{/if}
</section>
