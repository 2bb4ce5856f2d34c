/**
 * Structural sharing: what an answer repeats stays the object it was, so that only what changed is
 * drawn anew.
 */

/**
 * `next`, with every part that equals its part in `last` replaced by that part. Both are plain JSON
 * and are not changed.
 */
export function steady<T>(last: unknown, next: T): T {
  if (last === next || typeof last !== 'object' || typeof next !== 'object' || !last || !next)
    return next;
  return Array.isArray(next) ? (list(last, next) as T) : (record(last as Json, next as Json) as T);
}

type Json = Record<string, unknown>;

function list(last: object, next: unknown[]): unknown[] {
  if (!Array.isArray(last)) return next;
  const out = next.map((one, i) => steady(last[i], one));
  return out.length === last.length && out.every((one, i) => one === last[i]) ? last : out;
}

function record(last: Json, next: Json): Json {
  if (Array.isArray(last)) return next;
  const keys = Object.keys(next);
  let same = keys.length === Object.keys(last).length;
  const out: Json = {};
  for (const key of keys) {
    out[key] = steady(last[key], next[key]);
    same &&= key in last && out[key] === last[key];
  }
  return same ? last : out;
}

/** A function for `$derived.by` whose value keeps its identity as far as it stays equal. */
export function kept<T>(make: () => T): () => T {
  let last: T | undefined;
  return () => (last = steady(last, make()));
}
