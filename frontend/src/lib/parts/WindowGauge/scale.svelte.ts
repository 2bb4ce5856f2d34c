/** The gauge's scale: how far it reaches, which bounds stand on it, where their labels go. */
import type { Schemas } from '../../api/client';
import { kN } from '../../figures';
import { placeLabels } from './layout';

export type Bound = Schemas['LimitOut'];
export const WIDTH = 400;
export const ROW = 17;
/** Width of a character of the labels, which are 12 px high where the gauge is narrowest. */
const CHAR = 7;
/** So many bounds stand on the scale on either side: more labels would lie over each other’s lines. */
const MOST = 3;
const VERDICT = { fine: 'fits', tight: 'tight', impossible: 'does not fit', unbounded: 'no bounds given' };
const NONE = { lower_N: null, upper_N: null, verdict: 'unbounded', opens: null } as const;

export class GaugeScale {
  constructor(
    private readonly preload: () => Schemas['PreloadOut'],
    private readonly every: () => Bound[],
    private readonly given: () => Schemas['WindowOut'] | null,
  ) {}

  readonly bounds = $derived.by(() => this.given() ?? NONE);
  /** Bounds far above everything else only squeeze the scale: they are named below instead. */
  private readonly reach = $derived.by(
    () =>
      1.7 *
      Math.max(
        this.preload().high_N,
        this.bounds.upper_N ?? 0,
        ...this.every()
          .filter((l) => l.side === 'lower')
          .map((l) => l.clamp_N),
      ),
  );
  /** The bounds nearest to the load on either side stand on the scale; the others are named below it. */
  private readonly limits = $derived.by(() => {
    const near = this.every().filter((l) => l.clamp_N <= this.reach);
    const upper = near.filter((l) => l.side === 'upper').sort((a, b) => a.clamp_N - b.clamp_N);
    const lower = near.filter((l) => l.side === 'lower').sort((a, b) => b.clamp_N - a.clamp_N);
    return [...upper.slice(0, MOST), ...lower.slice(0, MOST)];
  });
  readonly others = $derived.by(() => this.every().filter((l) => !this.limits.includes(l)));
  private readonly top = $derived.by(() => Math.max(this.preload().high_N, ...this.limits.map((l) => l.clamp_N)) * 1.06);
  readonly above = $derived.by(() => this.placed('upper'));
  readonly below = $derived.by(() => this.placed('lower'));
  readonly y0 = $derived.by(() => Math.max(1, ...this.above.map((l) => l.row + 1)) * ROW + 6);
  readonly height = $derived.by(() => this.y0 + 22 + Math.max(1, ...this.below.map((l) => l.row + 1)) * ROW + 6);
  readonly words = $derived.by(() => VERDICT[this.bounds.verdict]);

  /** Where a load stands on the scale. */
  x = (newton: number): number => (newton / this.top) * WIDTH;

  private placed(side: Bound['side']) {
    const mine = this.limits.filter((l) => l.side === side);
    return placeLabels(
      mine.map((l) => ({ ...l, x: this.x(l.clamp_N), text: `${l.name} ${kN(l.clamp_N)}` })),
      WIDTH,
      CHAR,
      side === 'lower',
    );
  }
}

/** A bound in a sentence: its load, how far it is used, the field that sets it. */
export function boundWords(limit: Bound): string {
  const used =
    limit.side === 'upper'
      ? `used to ${(limit.use * 100).toFixed(0)} %`
      : `covered ${limit.use.toFixed(limit.use < 10 ? 2 : 0)} times`;
  return `${limit.name}: ${kN(limit.clamp_N)} kN, ${used}; set by ${limit.input.split('/').slice(2).join(' ').replaceAll('_', ' ')}`;
}
