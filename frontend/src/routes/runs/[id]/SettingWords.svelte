<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { sentence } from '#lib/sentence.ts';

  /**
   * What is said beside the setting: in another unit, on the scale, with which wrench and chain,
   * where it reacts.
   */
  let { setting, changed }: { setting: Schemas['SettingOut']; changed: boolean } = $props();
  const links = $derived(setting.links ?? []);
  const between = $derived(
    links
      .map((l) =>
        l.kind === 'adapter'
          ? l.angle_deg
            ? sentence('wrench.adapter_at', { adapter: l.text, angle: l.angle_deg.toFixed(0) })
            : sentence('wrench.adapter_in_line', { adapter: l.text })
          : l.kind === 'multiplier'
            ? `multiplier ${l.text}`
            : '',
      )
      .filter(Boolean)
      .join(' and '),
  );
  const rests = $derived(links.find((l) => l.rests_on)?.rests_on);
</script>

<p class="soft text-[1.15rem]">
  {sentence('wrench.with_scale', {
    text: setting.second,
    main: setting.scale?.main ?? 'none',
    collar: setting.scale?.collar,
  })} ·
  {#if changed}<b class="text-ink"
      >{setting.preset
        ? sentence('wrench.take', { tool: setting.tool })
        : sentence('wrench.set_to_this', {
            tool: setting.tool,
            scale: setting.scale ? 'yes' : 'no',
          })}</b
    >{:else}{setting.preset
      ? setting.tool
      : sentence('wrench.unchanged', { tool: setting.tool })}{/if}
</p>
{#if setting.corrected}<p class="text-[1.1rem] font-semibold text-caution">
    {setting.corrected}.
  </p>{/if}
{#if between}<p class="text-[1.1rem]">
    {sentence('wrench.bolt_gets', { links: between, torque: setting.bolt_torque_Nm.toFixed(0) })}
  </p>{/if}
{#if setting.reaction_Nm}<p class="text-[1.1rem]">
    {sentence('wrench.hands_clear', {
      torque: setting.reaction_Nm.toFixed(0),
      place: rests ?? 'none',
    })}
  </p>{/if}
