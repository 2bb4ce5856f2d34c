/** The Bench's sections in work order, each with its telling line. */
import type { Doc } from '#lib/bench.svelte.ts';
import type { Schemas } from '#lib/api/client.ts';
import { kN } from '#lib/figures.ts';

export interface SectionInfo {
  key: string;
  title: string;
  line: string;
  kind: 'joint' | 'figure' | 'tools' | 'stage' | 'back';
  index: number;
  tool: string;
  mark: 'good' | 'caution' | 'stop';
}

const NAMES: Record<string, string> = {
  prepare: 'Prepare',
  clean: 'Clean',
  inspect: 'Inspect',
  apply: 'Lubricate',
  tighten: 'Tighten',
  measure: 'Prove',
  mark: 'Mark',
  hold: 'Hold',
  counter_hold: 'Hold the far side',
  fit: 'Fit',
  remove: 'Take out',
  loosen: 'Loosen',
  jack_out: 'Press off',
  wait: 'Wait',
  lock: 'Lock',
  watch: 'Watch',
  note: 'Note',
};
const PASS: Record<string, string> = {
  hand: 'hand',
  snug: 'snug',
  feel: 'by feel',
  angle: 'angle',
  back_off: 'back',
  gap_round: 'even draw',
  wait: 'wait',
};

function plural(count: number, one: string): string {
  return `${count} ${one}${count === 1 ? '' : 's'}`;
}

/** One pass in a word or two. */
export function passWord(p: Doc): string {
  if (p.do === 'torque') return `${p.percent}${p.check ? ' check' : p.repeat ? ' repeat' : ''}`;
  return `${PASS[p.do] ?? p.do}${p.turn ? ` ${p.turn}` : p.for ? ` ${p.for}` : ''}`;
}

function stageLine(stage: Doc, out: Schemas['StageOut'] | undefined): string {
  const when = (stage.in ?? ['install']).includes('install') ? '' : `${(stage.in ?? []).join(', ')}: `;
  if (stage.kind === 'tighten') {
    const passes = stage.method ? `method ${stage.method.replaceAll('_', ' ')}` : (stage.passes ?? []).map(passWord).join(', ');
    const set = out?.passes.findLast((p) => p.settings?.length)?.settings?.[0]?.text;
    return `${when}${passes}${set ? ` → ${set}` : ''} · ${(stage.condition ?? []).join(', ')}`;
  }
  if (stage.items) return `${when}${plural(stage.items.length, 'item')}, ${plural((stage.cautions ?? []).length, 'caution')}`;
  if (stage.checks) return when + stage.checks.map((c: Doc) => c.what ?? c.id).join('; ');
  if (stage.kind === 'loosen') return `${when}${stage.turn ?? '1 flat'}, ${plural(stage.rounds ?? 2, 'round')}`;
  return when + (stage.what ?? stage.text ?? (stage.fit ? `what “${stage.fit}” put in` : ''));
}

type Mark = SectionInfo['mark'];

function worst(marks: string[]): Mark {
  return marks.includes('stop') ? 'stop' : marks.includes('caution') ? 'caution' : 'good';
}

/** How many bolts of which thread stand where, in words. */
export function layoutWords(layout: Doc, count: number, thread: string): string {
  if (layout.kind === 'circle') return `${layout.count} × ${thread} on Ø ${layout.diameter}`;
  if (layout.kind === 'row') return `${layout.count} × ${thread} in a row, ${layout.pitch} apart`;
  if (layout.kind === 'grid')
    return `${count} × ${thread} in ${layout.rows} rows of ${layout.columns}${layout.perimeter ? ', edge only' : ''}`;
  return count === 1 ? `1 × ${thread}` : `${count} × ${thread} at free points`;
}

/** Sections of a document with its result and errors. */
export function sectionsOf(doc: Doc, result: Schemas['Result'] | null, errors: Record<string, string>): SectionInfo[] {
  const paths = Object.keys(errors);
  const wrong = (test: (path: string) => boolean) => (paths.some(test) ? ['stop'] : []);
  const found = (test: (where: string) => boolean) =>
    (result?.findings ?? []).filter((f) => !f.waived && test(f.where)).map((f) => f.severity);
  const isJoint = (p: string) => /^groups\/\d+\/(layout|fastener\/(thread|face))|^positions/.test(p);
  const out: SectionInfo[] = [];
  const many = doc.groups.length > 1;
  doc.groups.forEach((g: Doc, i: number) => {
    const r = result?.groups[i];
    const own = (p: string) => p.startsWith(`groups/${i}/`);
    out.push({
      key: `joint-${i}`,
      kind: 'joint',
      index: i,
      tool: '',
      title: many ? `The joint: ${g.name}` : 'The joint',
      line: `${layoutWords(g.layout, r?.places.length ?? 0, g.fastener.thread)}${!many && doc.positions?.length ? `, ${doc.positions.length} positions` : ''}`,
      mark: worst(wrong((p) => own(p) && isJoint(p))),
    });
    const about = (w: string) => w === `groups/${g.id}` || w === `targets/${g.id}` || (!many && w.startsWith('sources'));
    out.push({
      key: `figure-${i}`,
      kind: 'figure',
      index: i,
      tool: '',
      title: many ? `The figure: ${g.name}` : 'Find the figure',
      line:
        r?.target && r.preload
          ? `${r.target.set_torque_Nm.toFixed(0)} N·m${r.target.angle_deg ? ` + ${r.target.angle_deg.toFixed(0)}°` : ''}, ${r.target.why}; ${kN(r.preload.typical_N)} kN`
          : r
            ? 'no figure: snug or by hand'
            : 'not computed',
      mark: worst([
        ...found(about),
        ...wrong(
          (p) => (own(p) && !isJoint(p)) || p.startsWith(`targets/${g.id}`) || (!many && /^(sources|definitions)/.test(p)),
        ),
      ]),
    });
  });
  let tools = false;
  doc.stages.forEach((stage: Doc, i: number) => {
    if (stage.kind === 'tighten' && !tools) {
      tools = true;
      for (const [id, w] of Object.entries<Doc>(doc.tools ?? {}))
        out.push({
          key: `tool-${id}`,
          kind: 'tools',
          index: 0,
          tool: id,
          title: 'Tools',
          line: `${w.name ?? w.kind}, ${w.range[0]} to ${w.range[1]}${w.length ? `, ${w.length}` : ''}`,
          mark: worst([
            ...(result?.findings ?? [])
              .filter((f) => /^(hand_force|drive|tool_|setting|preset|reaction)/.test(f.code))
              .map((f) => f.severity),
            ...wrong((p) => /^(tools|chains)/.test(p)),
          ]),
        });
    }
    out.push({
      key: `stage-${stage.id}`,
      kind: 'stage',
      index: i,
      tool: '',
      title: stage.title ?? NAMES[stage.kind] ?? stage.kind,
      line: stageLine(stage, result?.stages[i]),
      mark: worst([
        ...(result?.findings ?? [])
          .filter((f) => f.where === `stages/${i}` && !/^(hand_force|drive|tool_|setting|preset|reaction)/.test(f.code))
          .map((f) => f.severity),
        ...wrong((p) => p.startsWith(`stages/${i}/`) || p === `stages/${i}`),
      ]),
    });
  });
  const rechecks = result?.rechecks ?? [];
  out.push({
    key: 'back',
    kind: 'back',
    index: 0,
    tool: '',
    title: 'Come back',
    line:
      rechecks
        .map(
          (r) =>
            `${r.at.length ? `at ${r.at.map((a) => Number(a.toFixed(1))).join(', ')} ${r.meter}` : ''}${r.every ? `${r.at.length ? ', then ' : ''}every ${Number(r.every.toFixed(1))} ${r.meter}` : ''}`,
        )
        .join('; ') || 'no recheck planned',
    mark: worst([...found((w) => w.startsWith('rechecks')), ...wrong((p) => p.startsWith('rechecks'))]),
  });
  return out;
}
