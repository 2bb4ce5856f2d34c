/** Chains between hand and bolt as a planner changes them: one adapter at the wrench, one multiplier behind it. */
import type { Doc } from '#lib/bench.svelte.ts';
import { asNumber } from '#lib/figures.ts';

/** What the Bench shows of a chain; `more` counts multipliers behind the first, which stay as they are. */
export interface Parts {
  adapter: string;
  angle: string;
  ratio: string;
  efficiency: string;
  arm: string;
  restsOn: string;
  more: number;
}

const isAdapter = (link: Doc) => typeof link === 'object' && 'adapter' in link;
const isMultiplier = (link: Doc) => typeof link === 'object' && 'multiplier' in link;

/** The parts of a chain as text. */
export function partsOf(chain: Doc[]): Parts {
  const adapter = chain.find(isAdapter);
  const multipliers = chain.filter(isMultiplier);
  const first = multipliers[0];
  return {
    adapter: adapter?.adapter ?? '',
    angle: adapter?.angle ?? '',
    ratio: first ? String(first.multiplier) : '',
    efficiency: first?.efficiency ? first.efficiency.join(' ') : '',
    arm: first?.arm ?? '',
    restsOn: first?.rests_on ?? '',
    more: Math.max(0, multipliers.length - 1),
  };
}

/** An efficiency as typed: one figure stands for all three; anything else stays as it is for the server to name. */
export function band(text: string): (number | string)[] {
  const values = text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map(asNumber);
  return values.length === 1 ? [values[0]!, values[0]!, values[0]!] : values;
}

function given(fields: Record<string, unknown>): Doc {
  return Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== '' && value !== undefined));
}

/** The chain with one part changed; without length there is no adapter, without ratio no multiplier. */
export function changed(chain: Doc[], part: keyof Omit<Parts, 'more'>, text: string): Doc[] {
  const parts = { ...partsOf(chain), [part]: text.trim() };
  const first = chain.find(isMultiplier);
  const out: Doc[] = [chain[0]];
  if (parts.adapter) out.push(given({ adapter: parts.adapter, angle: parts.angle }));
  if (parts.ratio)
    out.push(
      given({
        multiplier: part === 'ratio' || !first ? asNumber(parts.ratio) : first.multiplier,
        efficiency: part === 'efficiency' ? (parts.efficiency ? band(parts.efficiency) : '') : first?.efficiency,
        arm: parts.arm,
        rests_on: parts.restsOn,
      }),
    );
  const rest = chain.filter(isMultiplier).slice(1);
  return parts.ratio ? [...out, ...rest] : out;
}

/** A tool and its chain under names that nothing has yet. */
export function newTool(doc: Doc): { tool: string; chain: string; spec: Doc } {
  let n = 2;
  while (`w${n}` in (doc.tools ?? {}) || `c${n}` in (doc.chains ?? {})) n++;
  return {
    tool: `w${n}`,
    chain: `c${n}`,
    spec: { kind: 'click wrench', range: ['40 N·m', '200 N·m'], increment: '1 N·m', length: '600 mm', drive: '1/2 in' },
  };
}
