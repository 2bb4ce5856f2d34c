/**
 * The form of a tool: its fields by sort, and how they are sent. What is right or wrong the server
 * says.
 */
import { api, type Schemas } from '#lib/api/client.ts';

interface ToolField {
  name: string;
  label: string;
  example?: string;
  note?: string;
}

/** Fields by their name. */
const named = (fields: Record<string, Omit<ToolField, 'name'>>): ToolField[] =>
  Object.entries(fields).map(([name, field]) => ({ name, ...field }));
const DRIVE: ToolField = { name: 'drive', label: 'Drive' };
const HEAD: ToolField[] = [
  { name: 'serial', label: 'Serial', example: 'TW-31' },
  { name: 'name', label: 'Name', example: 'not named' },
];
const RANGE: ToolField[] = [
  { name: 'low', label: 'From', example: '40 N·m' },
  { name: 'high', label: 'To', example: '200 N·m' },
];
const KEPT: ToolField[] = [
  { name: 'place', label: 'Place of storage', example: 'Tool room' },
  { name: 'owner', label: 'Owner', example: 'the works' },
  { name: 'interval_months', label: 'Checked every', note: 'months', example: '12' },
  { name: 'note', label: 'Note', example: 'none' },
];
export const FIELDS: Record<string, ToolField[]> = {
  wrench: [
    { name: 'kind', label: 'Kind of wrench' },
    ...HEAD,
    ...RANGE,
    { name: 'increment', label: 'Finest line of its scale', example: '1 N·m' },
    ...named({ mark: { label: 'Main marks', note: 'where it has a collar', example: '10 N·m' } }),
    { name: 'length', label: 'Length to the grip', example: '600 mm' },
    DRIVE,
    {
      name: 'held_to',
      label: 'Held to',
      note: 'type and class of ISO 6789-1, or a limit such as 3 %',
    },
    ...KEPT.slice(0, 3),
    { name: 'interval_pulls', label: 'or after', note: 'pulls', example: '5000' },
    KEPT[3]!,
  ],
  multiplier: [
    ...HEAD,
    { name: 'ratio', label: 'Ratio', example: '5:1' },
    {
      name: 'efficiency',
      label: 'Efficiency',
      note: 'low – typical – high',
      example: '0.88 – 0.90 – 0.92',
    },
    { ...DRIVE, label: 'Drive of its output' },
    ...KEPT,
  ],
  adapter: [
    ...HEAD,
    { name: 'length', label: 'From drive to bolt', example: '120 mm' },
    { name: 'angle', label: 'Direction', example: '0 deg' },
    DRIVE,
    ...KEPT,
  ],
  tester: [
    ...HEAD,
    ...RANGE,
    { name: 'uncertainty', label: 'Its uncertainty', example: '0.5 %' },
    DRIVE,
    ...KEPT,
  ],
  gauge: [
    ...HEAD,
    { name: 'measures', label: 'What it measures', example: 'angle, in degrees' },
    { name: 'uncertainty', label: 'Its uncertainty', example: '± 2°' },
    ...KEPT,
  ],
};
const OF_REGISTER = [
  'serial',
  'place',
  'owner',
  'held_to',
  'interval_months',
  'interval_pulls',
  'note',
];

/** The texts of a form: of a tool that is put right, or of a new one. */
export function textsOf(detail?: Schemas['ToolDetail']): Record<string, string> {
  if (!detail) return { kind: 'click wrench', interval_months: '12', interval_pulls: '5000' };
  const { range, ...spec } = detail.spec as Record<string, unknown>;
  const [low, high] = Array.isArray(range) ? (range as string[]) : ['', ''];
  const plain = Object.entries(spec).map(([name, value]) => [
    name,
    Array.isArray(value) ? value.join(' – ') : String(value ?? ''),
  ]);
  return {
    ...Object.fromEntries(plain),
    low: low ?? '',
    high: high ?? '',
    serial: detail.tool.serial,
    place: detail.tool.place,
    owner: detail.tool.owner,
    held_to: detail.held_to,
    interval_months: String(detail.interval_months),
    interval_pulls: String(detail.tool.interval_pulls),
    note: detail.tool.note,
  };
}

/** Send a tool as typed; gives its id back, or what is wrong. */
export async function sendTool(
  sort: string,
  texts: Record<string, string>,
  borrowed: boolean,
  detail?: Schemas['ToolDetail'],
  headers: Record<string, string> = {},
): Promise<{ id?: string; problem?: unknown }> {
  const own = (FIELDS[sort] ?? [])
    .map((f) => f.name)
    .filter((name) => !OF_REGISTER.includes(name) && name !== 'low' && name !== 'high');
  const old = { ...(detail?.spec as Record<string, unknown> | undefined) };
  for (const name of own) delete old[name];
  const spec: Record<string, unknown> = {
    ...old,
    ...Object.fromEntries(own.filter((n) => texts[n]).map((n) => [n, texts[n]])),
  };
  if (texts.low || texts.high) spec.range = [texts.low ?? '', texts.high ?? ''];
  const body = {
    serial: texts.serial ?? '',
    sort,
    spec,
    place: texts.place ?? '',
    owner: texts.owner ?? '',
    borrowed,
    held_to: texts.held_to ?? '',
    interval_months: Number(texts.interval_months ?? 12) || 0,
    interval_pulls: Number(texts.interval_pulls ?? 5000) || 0,
    note: texts.note ?? '',
  };
  if (detail) {
    const id = detail.tool.id;
    const { error } = await api
      .PUT('/api/v1/tools/{id}', { params: { path: { id } }, body })
      .catch(() => ({ error: {} }));
    return error ? { problem: error } : { id };
  }
  const { data, error } = await api
    .POST('/api/v1/tools', { body, headers })
    .catch(() => ({ data: undefined, error: {} }));
  return data ? { id: data.id } : { problem: error };
}
