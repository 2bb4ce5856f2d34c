/** Groups of bolts as a planner adds them and takes them out. */
import type { Doc } from '#lib/bench.svelte.ts';
import { fresh } from './stages.ts';

/** Adds a group like the first one in grade and friction; it stands apart until it is placed. Returns its id. */
export function addGroup(doc: Doc): string {
  const first = doc.groups[0];
  const id = fresh(doc.groups, 'g');
  doc.groups.push({
    id,
    name: `Bolts ${doc.groups.length + 1}`,
    layout: { kind: 'circle', count: 4, diameter: '120 mm' },
    fastener: { thread: 'M12', grade: first?.fastener?.grade ?? 'ISO 898-1 8.8', head: 'hex' },
    friction: JSON.parse(JSON.stringify(first?.friction ?? { lubricant: 'dry-steel' })),
    limits: { yield_fraction: 0.6 },
  });
  doc.targets[id] = { kind: 'yield_fraction', fraction: 0.4 };
  return id;
}

/** Takes a group out of the plan and out of everything that names it. */
export function dropGroup(doc: Doc, id: string): void {
  doc.groups = doc.groups.filter((g: Doc) => g.id !== id);
  delete doc.targets[id];
  for (const holder of [...doc.stages, ...(doc.sources ?? [])]) {
    if (holder.groups) holder.groups = holder.groups.filter((name: string) => name !== id);
    if (holder.chain_for) delete holder.chain_for[id];
    for (const check of holder.checks ?? []) if (check.per === id) delete check.per;
  }
}
