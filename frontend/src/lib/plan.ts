/**
 * The plan document by its published type. A draft holds what was typed, right or wrong: the server
 * names what is wrong.
 */
import type { Schemas } from './api/client';

export type Plan = Schemas['Plan'];
export type Group = Plan['groups'][number];
export type Stage = Plan['stages'][number];
export type Tighten = Schemas['TightenStage'];
export type Pass = NonNullable<Tighten['passes']>[number];
export type Check = Schemas['Check'];
export type Tool = Schemas['Tool'];
export type Links = NonNullable<Plan['chains']>[string];
export type FieldSpec = Schemas['FieldSpec'];
/** A part of a document as its fields are written: by name, whatever was typed. */
export type Fields = Record<string, unknown>;

/** The fields of a part of the document, to be read and written by name. */
export function fieldsOf(part: object): Fields {
  return part as Fields;
}

/** A field by its name; a name with dots leads into the parts of a part. */
export function valueOf(part: object, name: string): unknown {
  return name
    .split('.')
    .reduce<unknown>((holder, key) => (holder as Fields | null | undefined)?.[key], part);
}

/** Write a field as typed; nothing typed is not given, and a part with nothing in it is none. */
export function write(part: object, name: string, value: unknown): void {
  const [first = '', ...rest] = name.split('.');
  const fields = fieldsOf(part);
  if (rest.length) {
    const inner = { ...((fields[first] as object | null | undefined) ?? {}) };
    write(inner, rest.join('.'), value);
    value = Object.keys(inner).length ? inner : '';
  }
  if (value === '' || value === undefined || (Array.isArray(value) && !value.length))
    delete fields[first];
  else fields[first] = value;
}

/** A field as text. */
export function textOf(part: object, name: string): string {
  const value = valueOf(part, name);
  return value === undefined || value === null
    ? ''
    : Array.isArray(value)
      ? value.join(', ')
      : String(value);
}

/** Texts separated by commas, as a list. */
export function listOf(text: string): string[] {
  return text
    .split(',')
    .map((t) => t.trim())
    .filter(Boolean);
}

/**
 * A count as typed: a whole number becomes one, anything else stays text for the server to name.
 */
export function asNumber(text: string): number | string {
  return /^-?\d+([.]\d+)?$/.test(text.trim()) ? Number(text) : text;
}

/**
 * A share, percent, ratio or band as it is shown: figures in the one way they are written, what was
 * typed as it was typed.
 */
export function written(
  value: unknown,
  kind: 'share' | 'percent' | 'ratio' | 'band' | 'shares',
): string {
  const percent = (figure: number) => Number((figure * 100).toFixed(3));
  if (Array.isArray(value)) {
    const figures = value.map((one) =>
      kind === 'shares' && typeof one === 'number' ? percent(one) : one,
    );
    return figures.join(' – ') + (kind === 'shares' ? ' %' : '');
  }
  if (typeof value !== 'number') return value === undefined || value === null ? '' : String(value);
  if (kind === 'ratio') return `${value}:1`;
  return kind === 'share' || kind === 'shares'
    ? `${percent(value)} %`
    : kind === 'percent'
      ? `${value} %`
      : String(value);
}

/** Names out of a plan that a field may choose among: [id, words]. */
export const namesIn = {
  chains: (plan: Plan): [string, string][] =>
    Object.entries(plan.chains ?? {}).map(([id, [first, ...rest]]) => {
      const tool = plan.tools?.[String(first)];
      return [id, `${tool?.name ?? tool?.kind ?? id}${rest.length ? ` + ${rest.length}` : ''}`];
    }),
  variants: (plan: Plan): [string, string][] =>
    (plan.variants ?? []).map((way) => [way.id, way.name]),
  stages: (plan: Plan, without?: Stage): [string, string][] =>
    plan.stages
      .filter((stage) => stage !== without)
      .map((stage) => [stage.id, stage.title || stage.id]),
  /** Checks, each as a reading of another may name it. */
  checks: (plan: Plan): [string, string][] =>
    plan.stages.flatMap((stage) =>
      ('checks' in stage ? stage.checks : []).map((check): [string, string] => [
        `${stage.id}/${check.id}`,
        `${stage.title || stage.id}: ${check.what || check.id}`,
      ]),
    ),
  groups: (plan: Plan): [string, string][] =>
    plan.groups.filter((g) => !g.like).map((g) => [g.id, g.name]),
};
