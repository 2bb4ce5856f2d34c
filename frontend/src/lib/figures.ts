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

/** A time of day, local to the reader. */
export function clock(iso: string): string {
  return new Date(iso).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });
}

/** A date, local to the reader. */
export function day(iso: string): string {
  return new Date(iso).toLocaleDateString([], { year: 'numeric', month: 'short', day: 'numeric' });
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

/** Words in the middle of a sentence: a small first letter, but abbreviations and units stay as they are written. */
export function small(words: string): string {
  return /^\p{Lu}\p{Ll}/u.test(words) ? words[0]!.toLowerCase() + words.slice(1) : words;
}
