/** Spreading the labels of the gauge along its scale so that none covers another. */

export interface Label {
  /** Where its mark stands. */
  x: number;
}

/**
 * Labels in the order of their marks, each at least `least` from the next, as near to its mark as
 * the width allows.
 */
export function spread<T extends Label>(
  labels: T[],
  width: number,
  least: number,
): (T & { at: number })[] {
  const placed = [...labels].sort((a, b) => a.x - b.x).map((label) => ({ ...label, at: label.x }));
  const half = least / 2;
  const room = Math.min(least, (width - least) / Math.max(1, placed.length - 1));
  // from the left, then from the right: what is pushed out at an end pushes its neighbours back
  placed.forEach((one, i) => (one.at = Math.max(one.at, i ? placed[i - 1]!.at + room : half)));
  for (let i = placed.length - 1; i >= 0; i--) {
    const one = placed[i]!;
    one.at = Math.min(one.at, i === placed.length - 1 ? width - half : placed[i + 1]!.at - room);
  }
  return placed;
}
