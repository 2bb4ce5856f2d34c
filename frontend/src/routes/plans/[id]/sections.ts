/** The Bench's sections in work order, each with its telling line. */
import type { Doc } from '#lib/bench.svelte.ts';
import type { Schemas } from '#lib/api/client.ts';
import { kN } from '#lib/figures.ts';

export interface SectionInfo {
  key: string;
  title: string;
  line: string;
  kind: 'joint' | 'figure' | 'tools' | 'stage';
  index: number;
  tool: string;
  mark: 'good' | 'caution' | 'stop';
}

const NAMES: Record<string, string> = { prepare: 'Prepare', inspect: 'Clean and inspect', apply: 'Lubricate', tighten: 'Tighten', measure: 'Prove', mark: 'Mark' };

function plural(count: number, one: string): string {
  return `${count} ${one}${count === 1 ? '' : 's'}`;
}

function stageLine(stage: Doc, out: Schemas['StageOut'] | undefined): string {
  if (stage.kind === 'tighten') {
    const passes = (stage.passes ?? []).map((p: Doc) => (p.do === 'hand' ? 'hand' : `${p.percent}${p.check ? ' check' : ''}`));
    const set = out?.passes.findLast((p) => p.settings.length)?.settings[0]?.text;
    return `${(stage.condition ?? []).join(', ')}: ${passes.join(', ')}${set ? ` → ${set}` : ''}`;
  }
  if (stage.items) return `${plural(stage.items.length, 'item')}, ${plural((stage.cautions ?? []).length, 'caution')}`;
  if (stage.checks) return stage.checks.map((c: Doc) => c.what).join('; ');
  return stage.what ?? '';
}

type Mark = SectionInfo['mark'];

function worst(marks: string[]): Mark {
  return marks.includes('stop') ? 'stop' : marks.includes('caution') ? 'caution' : 'good';
}

/** Sections of a document with its result and errors. */
export function sectionsOf(doc: Doc, result: Schemas['Result'] | null, errors: Record<string, string>): SectionInfo[] {
  const paths = Object.keys(errors);
  const wrong = (test: (path: string) => boolean) => (paths.some(test) ? ['stop'] : []);
  const found = (test: (where: string) => boolean) => (result?.findings ?? []).filter((f) => test(f.where)).map((f) => f.severity);
  const isJoint = (p: string) => /^groups\/\d+\/(layout|fastener\/(thread|face))|^positions/.test(p);
  const out: SectionInfo[] = [];
  doc.groups.forEach((g: Doc, i: number) => {
    const r = result?.groups[i];
    out.push({
      key: `joint-${i}`, kind: 'joint', index: i, tool: '', title: doc.groups.length > 1 ? `The joint: ${g.name}` : 'The joint',
      line: `${g.layout.count} × ${g.fastener.thread} on Ø ${g.layout.diameter}${doc.positions?.length ? `, ${doc.positions.length} positions` : ''}`,
      mark: worst(wrong(isJoint)),
    });
    out.push({
      key: `figure-${i}`, kind: 'figure', index: i, tool: '', title: 'Find the figure',
      line: r ? `${r.target.set_torque_Nm.toFixed(0)} N·m, ${r.target.why}; ${kN(r.preload.typical_N)} kN` : 'not computed',
      mark: worst([...found((w) => w === `groups/${g.id}` || w.startsWith('sources')), ...wrong((p) => (p.startsWith('groups/') && !isJoint(p)) || /^(targets|sources|definitions)/.test(p))]),
    });
  });
  let tools = false;
  doc.stages.forEach((stage: Doc, i: number) => {
    if (stage.kind === 'tighten' && !tools) {
      tools = true;
      for (const [id, w] of Object.entries<Doc>(doc.tools ?? {}))
        out.push({
          key: `tool-${id}`, kind: 'tools', index: 0, tool: id, title: 'Tools',
          line: `${w.name ?? w.kind}, ${w.range[0]} to ${w.range[1]}${w.length ? `, ${w.length}` : ''}`,
          mark: worst([...(result?.findings ?? []).filter((f) => /^(hand_force|drive|tool_|setting)/.test(f.code)).map((f) => f.severity), ...wrong((p) => /^(tools|chains)/.test(p))]),
        });
    }
    out.push({
      key: `stage-${stage.id}`, kind: 'stage', index: i, tool: '', title: stage.title ?? NAMES[stage.kind] ?? stage.kind,
      line: stageLine(stage, result?.stages[i]),
      mark: worst([...(result?.findings ?? []).filter((f) => f.where === `stages/${i}` && !/^(hand_force|drive|tool_|setting)/.test(f.code)).map((f) => f.severity), ...wrong((p) => p.startsWith(`stages/${i}`))]),
    });
  });
  return out;
}
