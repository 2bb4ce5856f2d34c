/**
 * Focus that never falls off: where the element that had it is taken away or switched off, it goes
 * to what stands nearest.
 */

const FOCUSABLE =
  'input:not([disabled]), select:not([disabled]), textarea:not([disabled]), button:not([disabled]), a[href]';

/** How long after something was done it is looked whether the focus still stands. */
const WAITS_MS = [0, 120, 400, 1200];

/** Watches a part of the page; returns what ends the watch. */
export function keepFocus(root: HTMLElement): () => void {
  let last: HTMLElement | null = null;
  let page = '';
  /**
   * The parents of what had the focus, from the inside out, and the place it had among what can be
   * focused in each.
   */
  let way: [HTMLElement, number][] = [];

  function remember(event: FocusEvent): void {
    last = event.target as HTMLElement;
    page = location.pathname;
    way = [];
    for (let at = last.parentElement; at && at !== root.parentElement; at = at.parentElement)
      way.push([at, [...at.querySelectorAll(FOCUSABLE)].indexOf(last)]);
  }
  const lost = () => !!last && (!last.isConnected || (last as HTMLButtonElement).disabled);
  function mend(): void {
    // another page begins at its beginning
    if (page !== location.pathname) last = null;
    if (
      !lost() ||
      (document.activeElement &&
        document.activeElement !== document.body &&
        document.activeElement !== last)
    )
      return;
    for (const [parent, place] of way) {
      if (!parent.isConnected) continue;
      const near = [...parent.querySelectorAll<HTMLElement>(FOCUSABLE)].filter(
        (one) => one.offsetParent,
      );
      const found = near[Math.min(Math.max(place, 0), near.length - 1)];
      if (found) return found.focus({ preventScroll: true });
    }
  }
  // what somebody did may take the element away at once, or when the server has answered; watching
  // every change of the page instead costs more than a picture takes to be painted
  let checks: ReturnType<typeof setTimeout>[] = [];
  function did(): void {
    for (const check of checks) clearTimeout(check);
    checks = WAITS_MS.map((wait) => setTimeout(mend, wait));
  }
  root.addEventListener('focusin', remember);
  // before a key goes nowhere it is given to where work goes on
  addEventListener('keydown', mend, true);
  addEventListener('click', did);
  addEventListener('keyup', acted);
  function acted(event: KeyboardEvent): void {
    if (
      event.key === 'Enter' ||
      event.key === ' ' ||
      event.key === 'Escape' ||
      event.altKey ||
      event.ctrlKey
    )
      did();
  }
  return () => {
    for (const check of checks) clearTimeout(check);
    root.removeEventListener('focusin', remember);
    removeEventListener('keydown', mend, true);
    removeEventListener('click', did);
    removeEventListener('keyup', acted);
  };
}
