import type { Schemas } from '#lib/api/client.ts';

/** What stands for what happened, in words. */
export const MARKS: Record<string, string> = {
  tightened: 'tightened',
  rechecked: 'rechecked, none moved',
  moved: 'rechecked, bolts moved',
  replaced: 'parts replaced',
  apart: 'taken apart',
  cut_short: 'cut short',
  opened: 'opened by others',
  failed: 'failed, left as it is',
  not_safe: 'reported not safe',
  use_as_is: 'accepted as is',
  going: 'in progress',
};

const LANE = 74;
const TOP = 56;
/** Marks stand at least so far apart, px. */
const APART = 21;

interface Drawn {
  id: string;
  x: number;
  y: number;
  leader: string;
  at: string;
  kind: string;
  count: number;
  words: string;
  run_id?: string | null;
}

/**
 * Marks at their days, moved apart to a least distance; those that do not fit any more overlap at
 * the end.
 */
function spread(days: number[], left: number, right: number): number[] {
  const xs = [...days];
  for (let i = 1; i < xs.length; i++) xs[i] = Math.max(xs[i]!, xs[i - 1]! + APART);
  let most = right;
  for (let i = xs.length - 1; i >= 0; i--) {
    xs[i] = Math.max(left, Math.min(xs[i]!, most));
    most = xs[i]! - APART;
  }
  return xs;
}

/** Where everything of the lanes stands, in px of a drawing of a width. */
export function laneGeometry(view: Schemas['ConditionView'], width: number) {
  const names = view.lanes.map((lane) => lane.name);
  const left = Math.min(150, Math.max(46, ...names.map((n) => n.length * 7.5 + 12)));
  const begin = Date.parse(view.begin);
  const end = Date.parse(view.end);
  const right = width - 12;
  const x = (at: string | number) =>
    left +
    ((right - left) * ((typeof at === 'number' ? at : Date.parse(at)) - begin)) / (end - begin);
  const lanes = view.lanes.map((lane, i) => {
    const y = TOP + i * LANE;
    const xs = spread(
      lane.marks.map((m) => x(m.at)),
      left + 8,
      right - 8,
    );
    const marks: Drawn[] = lane.marks.map((m, n) => ({
      ...m,
      id: `${i}-${n}`,
      x: xs[n]!,
      y: y - 22,
      leader: `${xs[n]},${y - 14} ${xs[n]},${y - 10} ${x(m.at)},${y - 4} ${x(m.at)},${y}`,
    }));
    const bands = lane.bands.map((b) => ({
      ...b,
      x: x(b.begin),
      width: Math.max(1, x(b.end) - x(b.begin)),
    }));
    const name = lane.name ? lane.name[0]!.toUpperCase() + lane.name.slice(1) : 'Joint';
    return { name, y, marks, bands };
  });
  const months = monthsOf(view.begin, view.end).map((m) => ({
    x: x(m.at),
    words: width < 700 ? m.short : m.words,
  }));
  const foot = TOP + view.lanes.length * LANE - 40;
  const ticks: { x: number; words: string }[] = [];
  for (const tick of view.ticks) {
    const at = x(tick.at);
    if (!ticks.length || at - ticks.at(-1)!.x > 90) ticks.push({ x: at, words: tick.words });
  }
  const dues = view.lanes.flatMap((lane, i) => {
    const row = view.rows.find((r) => r.name === lane.name || view.lanes.length === 1);
    const day = row?.dues.find((d) => d.day)?.day;
    const at = day ? x(day) : 0;
    return day && at > x(Date.now()) && at <= right
      ? [{ lane: lane.name, x: at, y: TOP + i * LANE + 9 }]
      : [];
  });
  const all = lanes.flatMap((l) => l.marks.map((m) => ({ ...m, lane: l.name })));
  const last = all.toSorted((a, b) => a.at.localeCompare(b.at)).at(-1);
  return { width, height: foot + 20, foot, lanes, months, ticks, dues, today: x(Date.now()), last };
}

/** The first of every month between two times. */
function monthsOf(begin: string, end: string): { at: number; words: string; short: string }[] {
  const out: { at: number; words: string; short: string }[] = [];
  const day = new Date(begin);
  day.setUTCDate(1);
  day.setUTCHours(0, 0, 0, 0);
  day.setUTCMonth(day.getUTCMonth() + 1);
  const name = new Intl.DateTimeFormat([], { month: 'short', timeZone: 'UTC' });
  while (day.getTime() < Date.parse(end)) {
    const word = name.format(day);
    const year = day.getUTCMonth() === 0 || !out.length ? ` ${day.getUTCFullYear()}` : '';
    out.push({
      at: day.getTime(),
      words: `${word}${year}`,
      short: day.getUTCMonth() % 3 === 0 ? word : '',
    });
    day.setUTCMonth(day.getUTCMonth() + 1);
  }
  return out;
}
