/** Which chapter of the guide helps on which page, by the beginning of its address. */
const CHAPTERS: [string, string][] = [
  ['/plans', 'plan-your-first-joint'],
  ['/equipment', 'plan-your-first-joint'],
  ['/runs', 'run-a-joint'],
  ['/joints', 'recheck'],
  ['/machines', 'recheck'],
  ['/due', 'recheck'],
  ['/shift', 'run-a-joint'],
  ['/tools', 'check-a-wrench'],
  ['/people', 'run-the-plant'],
  ['/registers', 'run-the-plant'],
];

/** The address of the help for a page; a record is read by who signs it. */
export function helpFor(page: string): string {
  if (page.endsWith('/record')) return '/help/settle-a-stop';
  const found = CHAPTERS.find(([start]) => page.startsWith(start));
  return found ? `/help/${found[1]}` : '/help';
}
