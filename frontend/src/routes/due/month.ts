/** Days of a month in weeks from Monday on, as `2028-02-29`; a month is `2028-02`. */

const two = (n: number) => String(n).padStart(2, '0');

/** The month of a day, local to the reader. */
export const monthOf = (day: Date): string => `${day.getFullYear()}-${two(day.getMonth() + 1)}`;

/** So many months later. */
export function shifted(month: string, by: number): string {
  const [year, number] = month.split('-').map(Number) as [number, number];
  return monthOf(new Date(year, number - 1 + by, 1));
}

/** Its weeks; days of the months around it are empty. */
export function weeksOf(month: string): string[][] {
  const [year, number] = month.split('-').map(Number) as [number, number];
  const before = (new Date(year, number - 1, 1).getDay() + 6) % 7;
  const days = new Date(year, number, 0).getDate();
  const cells = [
    ...Array<string>(before).fill(''),
    ...Array.from({ length: days }, (_, i) => `${month}-${two(i + 1)}`),
  ];
  while (cells.length % 7) cells.push('');
  return Array.from({ length: cells.length / 7 }, (_, week) => cells.slice(7 * week, 7 * week + 7));
}
