/** Placing the labels of the gauge so that none covers another and no mark's line runs through one. */

export interface Label {
  x: number;
  text: string;
}
export interface PlacedLabel extends Label {
  left: number;
  row: number;
}

/**
 * Put labels into rows from the axis outwards. A label ends at its mark, or begins there with `after`, as far as the width
 * allows: the line from the axis to it then passes beside the labels that stand nearer to the axis.
 */
export function placeLabels<T extends Label>(labels: T[], width: number, charWidth: number, after = false): (T & PlacedLabel)[] {
  const placed: (T & PlacedLabel)[] = [];
  const size = (label: Label) => label.text.length * charWidth;
  const covers = (one: PlacedLabel, x: number) => one.left < x - 1 && x + 1 < one.left + size(one);
  const meets = (one: PlacedLabel, left: number, label: Label) =>
    left < one.left + size(one) + 8 && one.left < left + size(label) + 8;
  for (const label of [...labels].sort((a, b) => (after ? b.x - a.x : a.x - b.x))) {
    const left = Math.max(0, Math.min(after ? label.x : label.x - size(label), width - size(label)));
    const here = { ...label, left, row: 0 };
    const rows = Array.from({ length: placed.length + 1 }, (_, row) => row);
    const free = (row: number) => placed.every((one) => one.row !== row || !meets(one, left, label));
    const clear = (row: number) =>
      placed.every((one) => (one.row < row ? !covers(one, label.x) : one.row > row ? !covers(here, one.x) : true));
    here.row = rows.find((row) => free(row) && clear(row)) ?? rows.find(free)!;
    placed.push(here);
  }
  return placed;
}
