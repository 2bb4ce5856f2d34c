/** The tightening of a result as one row of steps: for the tape and the joint face of the Bench. */
import type { Schemas } from '#lib/api/client.ts';
import { visible } from '#lib/parts/JointFace/geometry.ts';
import type { Band } from '#lib/parts/PassTape/PassTape.svelte';
import { sentence } from '#lib/sentence.ts';
import { kept } from '#lib/steady.ts';
import { groupsIn, looksAt, stepsOf, wayOf, type At } from './steps.ts';

/** How long a bolt is shown while the order is played. */
const STEP_MS = 600;

export class Tape {
  /** The step that is shown; null is the end of the work. */
  at = $state<number | null>(null);

  constructor(
    private readonly result: () => Schemas['Result'] | null,
    private readonly occasion: () => string,
    /** The group whose section is open, where one is. */
    private readonly looked: () => string = () => '',
  ) {}

  readonly way = $derived.by(
    kept(() => (this.result() ? wayOf(this.result()!, this.looked()) : [])),
  );
  readonly groups = $derived.by(
    kept(() => (this.result() ? groupsIn(this.result()!, this.way) : [])),
  );
  readonly steps = $derived.by(
    kept(() => (this.result() ? stepsOf(this.result()!, this.occasion(), this.way) : [])),
  );
  readonly total = $derived.by(() => this.steps.reduce((n, { pass }) => n + pass.order.length, 0));
  readonly bands = $derived.by(kept(() => this.banded()));
  readonly now = $derived.by<At>(kept(() => looksAt(this.steps, this.at)));
  /** The pass at the step; none at the end of the work. */
  readonly pass = $derived.by(() => this.steps[this.now.index]?.pass);
  /**
   * The pass whose setting is shown: the one at the step or the next that is set, else the last.
   */
  readonly set = $derived.by(
    () =>
      (this.now.index < 0
        ? undefined
        : this.steps.slice(this.now.index).find(({ pass }) => pass.settings?.length)) ??
      this.steps.findLast(({ pass }) => pass.settings?.length),
  );
  readonly group = $derived.by(() => {
    return this.groups.find((g) => g.id === (this.pass ?? this.set?.pass)?.group) ?? this.groups[0];
  });
  readonly drawn = $derived.by(
    kept(() =>
      visible(
        this.groups.flatMap((g) => g.places),
        this.group?.places.map((p) => p.id).slice(0, 1) ?? [],
      ),
    ),
  );
  readonly heads = $derived.by(
    kept(() =>
      Object.fromEntries((this.result()?.groups ?? []).map((g) => [g.id, g.thread.head_mm])),
    ),
  );
  readonly labels = $derived.by(
    kept(() =>
      Object.fromEntries(
        (this.result()?.groups ?? []).flatMap((g) => g.places.map((p) => [p.id, p.label])),
      ),
    ),
  );

  /** Where the marker is, in words. */
  readonly said = $derived.by(() => {
    const bolts = this.now.next.map((place) => this.labels[place] ?? '').join(' and ');
    return this.at === null || !bolts ? 'at the end' : sentence('bench.after_bolt', { bolts });
  });

  /** The order played at the joint, bolt after bolt, from where the tape stands. */
  playing = $state(false);
  private clock: ReturnType<typeof setInterval> | undefined;

  play = (): void => {
    if (this.playing) return this.pause();
    if (this.at === null || this.at >= this.total - 1) this.at = 0;
    this.playing = true;
    this.clock = setInterval(() => {
      this.forward();
      if (this.at === this.total - 1) this.pause();
    }, STEP_MS);
  };
  pause = (): void => {
    clearInterval(this.clock);
    this.playing = false;
  };

  forward = (): void => void (this.at = Math.min((this.at ?? -1) + 1, this.total - 1));
  back = (): void => void (this.at = this.at ? this.at - 1 : null);

  private banded(): Band[] {
    let left = this.at === null ? Infinity : this.at + 1;
    return this.steps.map(({ stage, pass }) => {
      const done = Math.max(0, Math.min(pass.order.length, left));
      left -= pass.order.length;
      return {
        id: `${stage}/${pass.id}/${pass.group}`,
        label: pass.name,
        percent: pass.height ?? 0,
        total: pass.order.length,
        done,
      };
    });
  }
}
