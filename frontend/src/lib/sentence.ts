import type { MessageFormatElement } from '@formatjs/icu-messageformat-parser';
import { IntlMessageFormat } from 'intl-messageformat';
import sentences from './sentences.json';

/**
 * Sentences by key, read at build (vite/sentences.ts); another language is another file of the same
 * keys.
 */
export type Key = keyof typeof sentences;
export type Values = Record<string, string | number | null | undefined>;
/** A part of a sentence, and how it stands out. */
export interface Part {
  text: string;
  as?: 'b' | 'a' | 'code';
}

const LANGUAGE = 'en';
const read = sentences as unknown as Record<Key, MessageFormatElement[]>;
const known = new Map<Key, IntlMessageFormat>();

function format(key: Key): IntlMessageFormat {
  let found = known.get(key);
  if (!found) known.set(key, (found = new IntlMessageFormat(read[key], LANGUAGE)));
  return found;
}

/** The sentence of a key with its values put in. */
export function sentence(key: Key, values: Values = {}): string {
  return String(format(key).format(values));
}

/** The parts of a sentence: bold, link and code are marked in its text. */
export function parts(key: Key, values: Values): Part[] {
  const as = (kind: Part['as']) => (inner: unknown[]) => ({ text: inner.join(''), as: kind });
  const found = format(key).format<Part>({
    ...values,
    b: as('b'),
    a: as('a'),
    code: as('code'),
  } as never);
  return (Array.isArray(found) ? found : [found]).map((one) =>
    typeof one === 'string' ? { text: one } : one,
  );
}
