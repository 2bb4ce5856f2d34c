<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';

  /** What is said beside the setting: in another unit, on the scale, with which wrench and chain, where it reacts. */
  let { setting, changed }: { setting: Schemas['SettingOut']; changed: boolean } = $props();
  const links = $derived(setting.links ?? []);
  const between = $derived(
    links
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
  const rests = $derived(links.find((l) => l.rests_on)?.rests_on);
</script>

<p class="soft text-[1.15rem]">
  {setting.second}{setting.scale ? ` · main mark ${setting.scale.main}, collar ${setting.scale.collar}` : ''} ·
  {#if changed}<b class="text-ink"
      >{setting.preset ? `take ${setting.tool}` : `set ${setting.tool} to this${setting.scale ? ': unlock, set, lock' : ''}`}</b
    >{:else}{setting.tool}{setting.preset ? '' : ', do not change'}{/if}
</p>
{#if setting.corrected}<p class="text-[1.1rem] font-semibold text-caution">{setting.corrected}.</p>{/if}
{#if between}<p class="text-[1.1rem]">With {between}: the bolt gets {setting.bolt_torque_Nm.toFixed(0)} N·m.</p>{/if}
{#if setting.reaction_Nm}<p class="text-[1.1rem]">
    Reaction {setting.reaction_Nm.toFixed(0)} N·m{rests ? `, rests on ${rests}` : ''}: hands clear.
  </p>{/if}
