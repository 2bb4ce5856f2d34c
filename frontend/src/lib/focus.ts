/** Focus that never falls off: where the element that had it is taken away or switched off, it goes to what stands nearest. */

const FOCUSABLE = 'input:not([disabled]), select:not([disabled]), textarea:not([disabled]), button:not([disabled]), a[href]';

/** Watches a part of the page; returns what ends the watch. */
export function keepFocus(root: HTMLElement): () => void {
  let last: HTMLElement | null = null;
  let page = '';
  /** The parents of what had the focus, from the inside out, and the place it had among what can be focused in each. */
  let way: [HTMLElement, number][] = [];

  function remember(event: FocusEvent): void {
    last = event.target as HTMLElement;
    page = location.pathname;
    way = [];
    for (let at = last.parentElement; at && at !== root.parentElement; at = at.parentElement)
      way.push([at, [...at.querySelectorAll(FOCUSABLE)].indexOf(last)]);
  }
  function mend(): void {
    // another page begins at its beginning
    if (page !== location.pathname) last = null;
    const lost = last && (!last.isConnected || (last as HTMLButtonElement).disabled);
    if (!lost || (document.activeElement && document.activeElement !== document.body && document.activeElement !== last)) return;
    for (const [parent, place] of way) {
      if (!parent.isConnected) continue;
      const near = [...parent.querySelectorAll<HTMLElement>(FOCUSABLE)].filter((one) => one.offsetParent);
      const found = near[Math.min(Math.max(place, 0), near.length - 1)];
      if (found) return found.focus({ preventScroll: true });
    }
  }
  // what took it away may put something else there in the same breath, and focus that
  const watch = new MutationObserver(() => setTimeout(mend));
  root.addEventListener('focusin', remember);
  watch.observe(root, { childList: true, subtree: true, attributes: true, attributeFilter: ['disabled'] });
  return () => {
    root.removeEventListener('focusin', remember);
    watch.disconnect();
  };
}
