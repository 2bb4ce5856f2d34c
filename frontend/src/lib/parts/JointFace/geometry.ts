/** Geometry of the joint face: hexagons to scale, never smaller than can be read. */

export interface Place {
  id: string;
  number: number;
  label?: string;
  x_mm: number;
  y_mm: number;
  angle_deg: number;
}

/** How a bolt is drawn: state, share of the torque, gap where one was measured. */
export interface BoltLook {
  state: string;
  percent: number;
  gap_mm?: number | null;
}

/** A bolt in the drawing: where it stands, how large, how full, and what is written on it. */
export interface DrawnBolt {
  id: string;
  look: BoltLook;
  fill: number;
  radius: number;
  text: string;
  x: number;
  y: number;
  turn: number;
  isNext: boolean;
}

export interface FaceGeometry {
  /** Left, top, width and height of the drawing, mm (y down). */
  box: [number, number, number, number];
  /** Half of its longer side, mm: the measure for lines and letters. */
  half: number;
  /** Circumradius of the largest hexagon, mm. */
  radius: number;
  /** Flange ring drawn behind the bolts, mm; null for other layouts. */
  ring: { inner: number; outer: number; pitch: number } | null;
  /**
   * Plate drawn behind rows, grids and free points: left, top, width, height, mm; null for a ring
   * and for one bolt.
   */
  plate: [number, number, number, number] | null;
}

function nearest(places: Place[]): number {
  let best = Infinity;
  const sorted = [...places].sort((a, b) => a.x_mm - b.x_mm);
  for (let i = 0; i < sorted.length; i++)
    for (let j = i + 1; j < sorted.length && sorted[j]!.x_mm - sorted[i]!.x_mm < best; j++) {
      const gap = Math.hypot(sorted[i]!.x_mm - sorted[j]!.x_mm, sorted[i]!.y_mm - sorted[j]!.y_mm);
      if (gap > 0.5) best = Math.min(best, gap);
    }
  return best;
}

/**
 * Fit the bolts into a drawing: true to scale where that can be read, larger where not, never
 * overlapping.
 */
export function geometryOf(places: Place[], head: number): FaceGeometry {
  const reach = Math.max(...places.map((p) => Math.hypot(p.x_mm, p.y_mm)), head);
  const gap = nearest(places);
  const room = Number.isFinite(gap) ? gap * 0.46 : reach;
  const radius = Math.min(Math.max(head / Math.sqrt(3), reach * 0.12), room, reach * 0.42);
  const outer = places.filter((p) => Math.abs(Math.hypot(p.x_mm, p.y_mm) - reach) < reach * 0.01);
  const inside = places.length - outer.length;
  const circle = outer.length > 2 && (inside === 0 || outer.length > inside) && even(outer);
  if (circle) {
    const half = reach + radius * 1.85;
    const wide = inside ? reach - radius * 1.5 : reach - radius * 1.7;
    return {
      box: [-half, -half, 2 * half, 2 * half],
      half,
      radius,
      plate: null,
      ring: { inner: inside ? 0 : wide, outer: reach + radius * 1.7, pitch: reach },
    };
  }
  const xs = places.map((p) => p.x_mm);
  const ys = places.map((p) => -p.y_mm);
  const edge = radius * 1.9;
  const plate: [number, number, number, number] = [
    Math.min(...xs) - edge,
    Math.min(...ys) - edge,
    Math.max(...xs) - Math.min(...xs) + 2 * edge,
    Math.max(...ys) - Math.min(...ys) + 2 * edge,
  ];
  const margin = radius * 0.3;
  const box: [number, number, number, number] = [
    plate[0] - margin,
    plate[1] - margin,
    plate[2] + 2 * margin,
    plate[3] + 2 * margin,
  ];
  return { box, half: Math.max(box[2], box[3]) / 2, radius, ring: null, plate };
}

/** Whether places stand about evenly round a circle: then a ring is drawn, else a plate. */
function even(places: Place[]): boolean {
  const turns = places.map((p) => Math.atan2(p.x_mm, p.y_mm)).sort((a, b) => a - b);
  const gaps = turns.map((t, i) => (i ? t - turns[i - 1]! : t - turns.at(-1)! + 2 * Math.PI));
  return Math.max(...gaps) < (2 * Math.PI * 1.12) / places.length;
}

/**
 * Places of groups that can be drawn together: of those that stand in one place only the first (or
 * the preferred group).
 */
export function visible(places: Place[], prefer: string[]): Place[] {
  const wanted = new Set(prefer.map((p) => p.slice(0, p.lastIndexOf('.'))));
  const own = (p: Place) => wanted.has(p.id.slice(0, p.id.lastIndexOf('.')));
  const taken = new Map<string, Place>();
  for (const place of [...places.filter(own), ...places.filter((p) => !own(p))]) {
    const key = `${place.x_mm.toFixed(1)}/${place.y_mm.toFixed(1)}`;
    if (!taken.has(key)) taken.set(key, place);
  }
  return places.filter((p) => taken.get(`${p.x_mm.toFixed(1)}/${p.y_mm.toFixed(1)}`) === p);
}

/** Corner points of a hexagon, one corner towards `turn` radians. */
export function hexagon(x: number, y: number, radius: number, turn: number): string {
  const corners = Array.from({ length: 6 }, (_, i) => {
    const angle = (Math.PI / 3) * i + turn;
    return `${(x + radius * Math.cos(angle)).toFixed(2)},${(y + radius * Math.sin(angle)).toFixed(2)}`;
  });
  return corners.join(' ');
}
