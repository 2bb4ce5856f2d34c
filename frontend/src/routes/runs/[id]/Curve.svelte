<script lang="ts">
  import PullCurve from '#lib/parts/PullCurve/PullCurve.svelte';
  import { sentence } from '#lib/sentence.ts';
  import type { Meter } from './meter.svelte.ts';

  /** The curve of the pull that is made, or was made last. */
  let { meter }: { meter: Meter } = $props();
  const good = $derived(!meter.result || meter.result.code === 'good');
  const evidence = $derived.by(() => {
    const { curve, result } = meter;
    if (!result || good) return null;
    const at = (time: number) =>
      curve.angle[curve.seconds.findIndex((s) => s >= time)] ?? curve.angle.at(-1) ?? 0;
    return { from: at(result.first), to: at(result.last) };
  });
  const picture = $derived({
    lines: [{ angle: meter.curve.angle, torque: meter.curve.torque, bad: !good }],
    wanted: meter.wanted,
    evidence,
    least: [30, meter.wanted ?? 10] as [number, number],
  });
</script>

<div class="rounded-[6px] border bg-sheet px-2 pt-1">
  <p class="soft text-sm">{sentence('run.curve', { pull: meter.label })}</p>
  <PullCurve
    {picture}
    label={sentence('run.curve_label', { pull: meter.label })}
    class="h-40 max-[500px]:h-28 short:h-32"
  />
</div>
