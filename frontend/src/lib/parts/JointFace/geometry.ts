/** Geometry of the joint face: hexagons to scale, never smaller than can be read. */

export interface Place {
  id: string;
  number: number;
  x_mm: number;
  y_mm: number;
  angle_deg: number;
}

export interface FaceGeometry {
  /** Half of the drawing's side, mm. */
  half: number;
  /** Circumradius of a hexagon, mm. */
  radius: number;
  /** Inner and outer edge of the flange ring drawn behind the bolts, mm; null for other layouts. */
  ring: { inner: number; outer: number; pitch: number } | null;
}

/** Fit the bolts into a square: true to scale where that can be read, larger where not, never overlapping. */
export function geometryOf(places: Place[], acrossFlats: number): FaceGeometry {
  const reach = Math.max(...places.map((p) => Math.hypot(p.x_mm, p.y_mm)), acrossFlats);
  let nearest = Infinity;
  for (let i = 0; i < places.length; i++)
    for (let j = i + 1; j < Math.min(places.length, i + 3); j++)
      nearest = Math.min(nearest, Math.hypot(places[i]!.x_mm - places[j]!.x_mm, places[i]!.y_mm - places[j]!.y_mm));
  const room = Number.isFinite(nearest) ? nearest * 0.46 : reach;
  const radius = Math.min(Math.max(acrossFlats / Math.sqrt(3), reach * 0.12), room, reach * 0.3);
  const circle = places.length > 2 && places.every((p) => Math.abs(Math.hypot(p.x_mm, p.y_mm) - reach) < reach * 0.01);
  const ring = circle ? { inner: reach - radius * 1.7, outer: reach + radius * 1.7, pitch: reach } : null;
  return { half: reach + radius * 1.85, radius, ring };
}

/** Corner points of a hexagon, one corner towards `turn` radians. */
export function hexagon(x: number, y: number, radius: number, turn: number): string {
  const corners = Array.from({ length: 6 }, (_, i) => {
    const angle = (Math.PI / 3) * i + turn;
    return `${(x + radius * Math.cos(angle)).toFixed(2)},${(y + radius * Math.sin(angle)).toFixed(2)}`;
  });
  return corners.join(' ');
}
