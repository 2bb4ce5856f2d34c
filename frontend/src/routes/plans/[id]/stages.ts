/** Stages as a planner adds, moves and takes them out: what a new one begins with. Rules stay on the server. */
import type { Doc } from '#lib/bench.svelte.ts';

/** Kinds of stage in the order of the work, with the word on the list. */
export const STAGE_KINDS: [string, string][] = [
  ['prepare', 'Prepare: things to tick'],
  ['loosen', 'Loosen'],
  ['jack_out', 'Press off'],
  ['remove', 'Take out or off'],
  ['clean', 'Clean'],
  ['inspect', 'Inspect'],
  ['apply', 'Lubricate or lock with a compound'],
  ['hold', 'Hold a part'],
  ['counter_hold', 'Hold the far side'],
  ['fit', 'Fit a part or a tool'],
  ['tighten', 'Tighten'],
  ['wait', 'Wait'],
  ['measure', 'Measure'],
  ['lock', 'Lock: tab, pin, stake'],
  ['mark', 'Mark'],
  ['watch', 'Watch at start-up'],
  ['note', 'Note to read'],
];

export const OCCASIONS = ['install', 'dismantle', 'recheck'] as const;
export const FACES = ['thread', 'under head', 'washer', 'seat'] as const;

/** An id that no other of the list has. */
export function fresh(list: { id: string }[], stem: string): string {
  let n = list.length + 1;
  while (list.some((x) => x.id === `${stem}${n}`)) n++;
  return `${stem}${n}`;
}

/** The condition that the plan's tightening names, else one that fits every joint. */
function usualCondition(doc: Doc): string[] {
  const tighten = doc.stages.find((s: Doc) => s.kind === 'tighten' && s.condition?.length);
  return tighten ? [...tighten.condition] : ['load off'];
}

/** What a new stage of a kind begins with; complete, so that the plan goes on being computed. */
export function newStage(kind: string, doc: Doc): Doc {
  const groups: string[] = doc.groups.map((g: Doc) => g.id);
  const condition = usualCondition(doc);
  const fitted = doc.stages.find((s: Doc) => s.kind === 'fit' && !doc.stages.some((r: Doc) => r.fit === s.id));
  const lubricant: string | undefined = doc.groups[0]?.friction?.lubricant;
  const begin: Record<string, Doc> = {
    prepare: { items: [{ id: 'i1', text: 'What has to be done' }] },
    clean: { items: [{ id: 'i1', text: 'Threads and faces clean' }] },
    loosen: { in: ['dismantle'], condition, groups, turn: '1 flat', rounds: 2 },
    jack_out: { in: ['dismantle'], condition, what: 'the part', screws: 2, turn: '90 deg' },
    remove: fitted ? { fit: fitted.id } : { what: 'what comes off' },
    inspect: { condition, checks: [{ id: 'c1', what: 'Faces clean and whole' }] },
    measure: { condition, checks: [{ id: 'c1', what: 'Gap', limit: { max: '0.5 mm' } }] },
    apply: lubricant
      ? { what: lubricant.replaceAll('-', ' '), compound: lubricant, groups, faces: ['thread', 'under head'] }
      : { what: 'the compound', groups, faces: ['thread', 'under head'] },
    hold: { what: 'the part that is held' },
    counter_hold: { what: 'far side held' },
    fit: { what: 'the part' },
    tighten: { condition, groups, chains: Object.keys(doc.chains ?? {}).slice(0, 1), method: 'rising_cross' },
    wait: { for: '10 min' },
    lock: { what: 'the lock', by: 'tab' },
    mark: { what: 'paint line over bolt and part' },
    watch: { what: 'the marks at start-up' },
    note: { text: 'Words to be read' },
  };
  return { id: fresh(doc.stages, kind), kind, ...begin[kind] };
}

/** Move a stage one place earlier or later; at the ends it stays. */
export function move(stages: Doc[], index: number, by: 1 | -1): void {
  const to = index + by;
  if (to < 0 || to >= stages.length) return;
  [stages[index], stages[to]] = [stages[to], stages[index]];
}

/** Put a name into a list or take it out, in the order of all names. */
export function toggled(list: readonly string[], all: readonly string[], name: string, on: boolean): string[] {
  return all.filter((x) => (x === name ? on : list.includes(x)));
}
