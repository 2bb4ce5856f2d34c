/** Figures for people: digits and units. Rules and computation stay on the server. */

/** A clamp load in kN, whole from 20 on. */
export function kN(newton: number): string {
  const value = newton / 1000;
  return value >= 20 ? value.toFixed(0) : value.toFixed(1);
}

/** A figure with so many significant digits and no trailing zeros. */
export function digits(value: number, count = 4): string {
  return String(Number(value.toPrecision(count)));
}

/** A share as percent. */
export function percent(share: number, places = 0): string {
  return `${(share * 100).toFixed(places)} %`;
}

/**
 * Figures of a column with their decimal signs below each other: the whole part is filled up with
 * spaces of a digit.
 */
export function atDecimal(figures: string[]): string[] {
  const wholes = figures.map((figure) => /^[−+-]?\d+(?=\D|$)/.exec(figure)?.[0].length ?? 0);
  const widest = Math.max(0, ...wholes);
  return figures.map(
    (figure, i) => (wholes[i] ? '\u2007'.repeat(widest - wholes[i]) : '') + figure,
  );
}

/**
 * The time zone of the place, in which its times are shown wherever the reader is; at first that of
 * the device.
 */
let zone: string | undefined;

/** Show times in this time zone from here on; gives it in words, as `Tokyo`. */
export function placeZone(name: string): string {
  zone = name;
  return name.split('/').pop()!.replaceAll('_', ' ');
}

/** A time of day at the place. */
export function clock(iso: string): string {
  return new Date(iso).toLocaleTimeString([], {
    hour: '2-digit',
    minute: '2-digit',
    timeZone: zone,
  });
}

/** A date at the place. */
export function day(iso: string): string {
  return new Date(iso).toLocaleDateString([], {
    year: 'numeric',
    month: 'short',
    day: 'numeric',
    timeZone: zone,
  });
}

/** A whole day, `2028-02-29`, which is the same wherever the reader is. */
export function whole(iso: string): string {
  return new Date(`${iso}T12:00:00Z`).toLocaleDateString([], {
    year: 'numeric',
    month: 'short',
    day: 'numeric',
    timeZone: 'UTC',
  });
}

/**
 * Words in the middle of a sentence: a small first letter, but abbreviations and units stay as they
 * are written.
 */
export function small(words: string): string {
  return /^\p{Lu}\p{Ll}/u.test(words) ? words[0]!.toLowerCase() + words.slice(1) : words;
}

const ORDER = new Intl.PluralRules('en', { type: 'ordinal' });
const ENDINGS: Record<string, string> = { one: 'st', two: 'nd', few: 'rd', other: 'th' };

/** A place in an order: 1st, 2nd, 8th. It is no bolt's number, and does not read like one. */
export function ordinal(count: number): string {
  return `${count}${ENDINGS[ORDER.select(count)]}`;
}
