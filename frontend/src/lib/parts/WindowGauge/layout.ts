/** Placing the labels of the gauge so that none covers another. */

export interface Label {
  x: number;
  text: string;
}
export interface PlacedLabel extends Label {
  left: number;
  row: number;
}

/** Put labels into rows from the axis outwards, each as near to its mark as the width allows. */
export function placeLabels<T extends Label>(labels: T[], width: number, charWidth: number): (T & PlacedLabel)[] {
  const ends: number[] = [];
  return [...labels]
    .sort((a, b) => a.x - b.x)
    .map((label) => {
      const size = label.text.length * charWidth;
      const left = Math.max(0, Math.min(label.x - size / 2, width - size));
      let row = ends.findIndex((end) => left >= end + 8);
      if (row < 0) row = ends.length;
      ends[row] = left + size;
      return { ...label, left, row };
    });
}
