/** The gauge's scale: how far it reaches, which limits stand on it, where their labels go. */
import type { Schemas } from '../../api/client';
import { spread } from './layout';

export type Limit = Schemas['LimitOut'];
export const WIDTH = 400;
/** Least distance of two labels, a letter and a figure each. */
const LEAST = 56;
/** So many limits stand on the scale on either side, the nearest to the load. */
const MOST = 3;
const VERDICT = {
  fine: 'fits',
  tight: 'tight',
  impossible: 'does not fit',
  unbounded: 'no limits entered',
};
const NONE = { lower_N: null, upper_N: null, verdict: 'unbounded', opens: null } as const;

/** A limit on the scale, by its letter. */
export type Lettered = Limit & { letter: string; x: number };

export class GaugeScale {
  constructor(
    private readonly preload: () => Schemas['PreloadOut'],
    private readonly every: () => Limit[],
    private readonly given: () => Schemas['WindowOut'] | null,
  ) {}

  readonly window = $derived.by(() => this.given() ?? NONE);
  /** Limits far above everything else only squeeze the scale: they stand in the table alone. */
  private readonly reach = $derived.by(
    () =>
      1.7 *
      Math.max(
        this.preload().high_N,
        this.window.upper_N ?? 0,
        ...this.every()
          .filter((l) => l.side === 'lower')
          .map((l) => l.clamp_N),
      ),
  );
  private readonly near = $derived.by(() => {
    const near = this.every().filter((l) => l.clamp_N <= this.reach);
    const upper = near.filter((l) => l.side === 'upper').sort((a, b) => a.clamp_N - b.clamp_N);
    const lower = near.filter((l) => l.side === 'lower').sort((a, b) => b.clamp_N - a.clamp_N);
    return [...upper.slice(0, MOST), ...lower.slice(0, MOST)].sort((a, b) => a.clamp_N - b.clamp_N);
  });
  private readonly top = $derived.by(
    () => Math.max(this.preload().high_N, ...this.near.map((l) => l.clamp_N)) * 1.06,
  );
  /** What stands on the scale and first in the table, in the order of value. */
  readonly limits = $derived.by<Lettered[]>(() =>
    this.near.map((limit, i) => ({
      ...limit,
      letter: String.fromCharCode(97 + i),
      x: this.x(limit.clamp_N),
    })),
  );
  readonly others = $derived.by(() =>
    this.every()
      .filter((l) => !this.near.includes(l))
      .sort((a, b) => a.clamp_N - b.clamp_N),
  );
  readonly above = $derived.by(() => this.spread('upper'));
  readonly below = $derived.by(() => this.spread('lower'));
  readonly words = $derived.by(() => VERDICT[this.window.verdict]);

  /** Where a load stands on the scale. */
  x = (newton: number): number => (newton / this.top) * WIDTH;

  /** Whether a limit is one of the two that the window ends at. */
  governs = (limit: Limit): boolean =>
    limit.clamp_N === (limit.side === 'upper' ? this.window.upper_N : this.window.lower_N);

  private spread(side: Limit['side']) {
    return spread(
      this.limits.filter((l) => l.side === side),
      WIDTH,
      LEAST,
    );
  }
}
