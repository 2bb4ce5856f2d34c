<script lang="ts" module>
  /** One band of the tape. */
  export interface Band {
    id: string;
    label: string;
    /** Share of the torque, percent; 0 for a pass by hand. */
    percent: number;
    total: number;
    done: number;
    /** Ticks at which a check found movement. */
    moved?: number[];
  }
</script>

<script lang="ts">
  interface Props {
    /** Bands in work order. */
    bands: Band[];
    /** The step marked, counted over all bands; null when there is none. */
    at?: number | null;
    /** Called while dragging, and with the arrow keys; without it the tape only shows. */
    onmove?: (step: number) => void;
    /** What the tape is. */
    label: string;
  }
  let { bands, at = null, onmove, label }: Props = $props();
  let strip: HTMLElement;
  const total = $derived(bands.reduce((sum, band) => sum + band.total, 0));
  const starts = $derived(
    bands.map((_, i) => bands.slice(0, i).reduce((sum, band) => sum + band.total, 0)),
  );

  function drag(event: PointerEvent) {
    if (!onmove || (event.type === 'pointermove' && !event.buttons)) return;
    for (const element of strip.querySelectorAll<HTMLElement>('[data-band]')) {
      const box = element.getBoundingClientRect();
      if (event.clientX < box.left || event.clientX > box.right) continue;
      const band = Number(element.dataset.band);
      const share = (event.clientX - box.left) / box.width;
      onmove(
        starts[band]! + Math.min(bands[band]!.total - 1, Math.floor(share * bands[band]!.total)),
      );
    }
  }
  function key(event: KeyboardEvent) {
    const by = { ArrowRight: 1, ArrowLeft: -1, End: total, Home: -total }[event.key];
    if (!onmove || by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onmove(Math.max(0, Math.min(total - 1, (at ?? 0) + by)));
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  bind:this={strip}
  class="tape {onmove ? 'movable' : ''}"
  role={onmove ? 'slider' : 'img'}
  aria-label={label}
  aria-valuemin={onmove ? 0 : undefined}
  aria-valuemax={onmove ? total - 1 : undefined}
  aria-valuenow={onmove ? (at ?? 0) : undefined}
  tabindex={onmove ? 0 : undefined}
  onpointerdown={drag}
  onpointermove={drag}
  onkeydown={key}
>
  {#each bands as band, i (band.id)}
    {@const from = starts[i]!}
    <div class="band" style="flex-grow: {Math.max(3, band.total)}" data-band={i}>
      <span class="title" title={band.label}>{band.label}</span>
      <div class="ticks">
        {#each Array.from({ length: band.total }, (_, k) => k) as k (k)}
          <i
            class="{k < band.done ? 'done' : ''} {band.moved?.includes(k) ? 'moved' : ''}"
            style="height: {band.percent ? 25 + band.percent * 0.75 : 12}%"
            data-at={at === from + k ? '' : undefined}
          ></i>
        {/each}
      </div>
    </div>
  {/each}
</div>

<style>
  .tape {
    display: flex;
    gap: 6px;
    touch-action: none;
    user-select: none;
  }
  .movable {
    cursor: ew-resize;
  }
  .band {
    flex-basis: 46px;
    min-width: 0;
    display: flex;
    flex-direction: column;
    gap: 3px;
  }
  .title {
    font-size: 0.78rem;
    color: var(--soft);
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .ticks {
    height: 44px;
    display: flex;
    align-items: flex-end;
    gap: 1px;
    border-bottom: 1.5px solid var(--ink);
    padding: 0 1px;
    position: relative;
  }
  i {
    flex: 1 1 0;
    min-width: 1px;
    background: color-mix(in srgb, var(--rule) 35%, var(--paper));
    position: relative;
  }
  .done {
    background: var(--load);
  }
  .moved {
    background: var(--caution);
  }
  i[data-at] {
    background: var(--brine);
    outline: 2px solid var(--brine);
  }
  i[data-at]::after {
    content: '';
    position: absolute;
    bottom: -9px;
    left: 50%;
    transform: translateX(-50%);
    border: 5px solid transparent;
    border-bottom-color: var(--brine);
  }
</style>
