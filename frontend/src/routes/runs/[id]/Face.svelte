<script lang="ts">
  import { visible } from '#lib/parts/JointFace/geometry.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import type { Run } from '#lib/run.svelte.ts';
  import { sentence } from '#lib/sentence.ts';
  import type { Desk } from './desk.svelte.ts';

  /** The joint as it stands, with the bolts to do now. */
  let { run, desk }: { run: Run; desk: Desk } = $props();
  const step = $derived(run.step);
  const heads = $derived(Object.fromEntries(run.view!.groups.map((g) => [g.id, g.thread.head_mm])));
  /** While gaps are drawn, the last gap stands at every bolt: where it is wide is seen. */
  const gaps = $derived(
    step?.last_gap
      ? Object.fromEntries(
          (run.state?.bolts ?? [])
            .filter((b) => b.gap_mm != null)
            .map((b) => [b.place, b.gap_mm!.toFixed(1)]),
        )
      : undefined,
  );
  const places = $derived(
    visible(
      run.view!.groups.flatMap((g) => g.places),
      step?.places ?? [],
    ),
  );
</script>

<div class="face {step?.entry === 'reading' ? 'reading' : ''}">
  <JointFace
    {places}
    acrossFlats={Math.max(30, ...Object.values(heads))}
    {heads}
    looks={desk.looks}
    next={step?.places ?? []}
    numbers={gaps}
    middle={step?.label ?? ''}
    below={step?.upcoming.length ? `then ${step.upcoming.join(', then ')}` : ''}
    label={sentence('run.face', {
      position: step?.position || 'none',
      bolt: step?.label || 'none',
    })}
  />
  {#if step?.position}<p class="where">{step.position}</p>{/if}
</div>

<style>
  .face {
    position: relative;
    height: min(calc(100dvh - 180px), 50vw);
  }
  .where {
    position: absolute;
    top: 0;
    left: 0;
    font-size: 1.6rem;
    font-weight: 800;
    background: var(--ink);
    color: var(--paper);
    padding: 0.1rem 0.8rem;
    border-radius: 4px;
  }
  @media (max-width: 900px) {
    .face {
      height: min(26dvh, 94vw);
    }
    .face :global(text.middle) {
      display: none;
    }
    .where {
      font-size: 1.2rem;
    }
  }
  /* on a phone the number pad takes the room of the drawing; the bolt is named in the sentence */
  @media (max-width: 500px) and (pointer: coarse) {
    .face.reading {
      display: none;
    }
  }
  @media (max-width: 500px) {
    .face {
      height: 19dvh;
    }
    .face :global(text.middle) {
      display: initial;
    }
  }
  /* a phone on its side: the joint stands at the left, as high as there is room */
  @media (max-height: 500px) and (orientation: landscape) {
    .face {
      height: calc(100dvh - 84px);
    }
  }
</style>
