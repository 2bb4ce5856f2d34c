<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';

  /** Charts of one group: torque readings of the last full pass, movement in the check rounds, gaps. */
  let { table, wanted }: { table: Schemas['GroupTable']; wanted: number | null } = $props();
  const W = 210;
  const H = 74;
  const full = $derived(table.columns.findLastIndex((c) => c.percent === 100 && !c.check));
  const torque = $derived(
    wanted === null || full < 0
      ? []
      : table.rows
          .map((row) => ({ label: row.label, value: parseFloat(row.cells[full]?.torque ?? '') }))
          .filter((b) => Number.isFinite(b.value)),
  );
  const span = $derived(Math.max(0.04, ...torque.map((b) => Math.abs(b.value / wanted! - 1))) * 1.15);
  const y = $derived((value: number) => H / 2 - ((value / wanted! - 1) / span) * (H / 2 - 4));
  const checks = $derived(table.columns.map((c, i) => ({ c, i })).filter(({ c }) => c.check));
  const moved = $derived(
    checks
      .map(({ c, i }) => ({
        title: c.title,
        moved: table.rows.filter((r) => r.cells[i]?.answer === 'turned').length,
        seen: table.rows.filter((r) => r.cells[i]).length,
      }))
      .filter((m) => m.seen),
  );
  const drawn = $derived(table.columns.map((c, i) => ({ c, i })).filter(({ c }) => c.do === 'gap_round'));
  const gaps = $derived(
    drawn
      .map(({ i }) => table.rows.map((r) => parseFloat(r.cells[i]?.value ?? '')).filter(Number.isFinite))
      .filter((g) => g.length),
  );
  const most = $derived(Math.max(1, ...gaps.flat()));
</script>

{#if torque.length}
  <figure class="mt-2">
    <svg
      viewBox="0 0 {W} {H + 14}"
      class="w-full max-w-[210px]"
      role="img"
      aria-label="Torque readings of {table.columns[full]?.title} around {wanted!.toFixed(0)} N·m"
    >
      <line x1="0" x2={W} y1={H / 2} y2={H / 2} stroke="var(--rule)" />
      {#each torque as bar, i (bar.label)}
        {@const x = ((i + 0.5) / torque.length) * W}
        <line x1={x} x2={x} y1={H / 2} y2={y(bar.value)} stroke="var(--load)" stroke-width="2" />
        <circle cx={x} cy={y(bar.value)} r="3" fill="var(--load)" />
        {#if torque.length <= 8 || i % 4 === 0}<text {x} y={H + 11} font-size="10" text-anchor="middle" fill="var(--soft)"
            >{bar.label}</text
          >{/if}
      {/each}
      <text x="0" y="9" font-size="10" fill="var(--soft)">+{(span * 100).toFixed(0)} %</text>
    </svg>
    <figcaption class="soft text-xs">{table.columns[full]?.title}: readings around {wanted!.toFixed(0)} N·m</figcaption>
  </figure>
{/if}
{#if moved.length}
  <figure class="mt-3">
    <svg
      viewBox="0 0 {W} {moved.length * 20}"
      class="w-full max-w-[210px]"
      role="img"
      aria-label="Bolts that moved: {moved.map((m) => `${m.title} ${m.moved} of ${m.seen}`).join('; ')}"
    >
      {#each moved as m, i (i)}
        <rect x="0" y={i * 20 + 3} width={W - 62} height="13" fill="var(--tint)" />
        <rect x="0" y={i * 20 + 3} width={((W - 62) * m.moved) / m.seen} height="13" fill="var(--caution)" />
        <text x={W - 56} y={i * 20 + 14} font-size="11" fill="var(--ink)">{m.moved} of {m.seen}</text>
      {/each}
    </svg>
    <figcaption class="soft text-xs">moved in the check, round by round</figcaption>
  </figure>
{/if}
{#if gaps.length}
  <figure class="mt-3">
    <svg
      viewBox="0 0 {W} {H + 12}"
      class="w-full max-w-[210px]"
      role="img"
      aria-label="Gaps round by round: {gaps.map((g) => `${Math.min(...g)} to ${Math.max(...g)} mm`).join('; ')}"
    >
      {#each gaps as g, i (i)}
        {@const x = ((i + 0.5) / gaps.length) * W}
        {@const low = H - (Math.min(...g) / most) * (H - 6)}
        {@const high = H - (Math.max(...g) / most) * (H - 6)}
        <rect x={x - 5} y={high - 1.5} width="10" height={low - high + 3} fill="var(--load)" />
        <text {x} y={H + 11} font-size="10" text-anchor="middle" fill="var(--soft)">{i + 1}</text>
      {/each}
      <line x1="0" x2={W} y1={H} y2={H} stroke="var(--rule)" />
      <text x="0" y="9" font-size="10" fill="var(--soft)">{most.toFixed(1)} mm</text>
    </svg>
    <figcaption class="soft text-xs">gaps, smallest to largest, round by round</figcaption>
  </figure>
{/if}
