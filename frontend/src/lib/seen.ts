/** Asking again while a page is in view: what others did meanwhile is shown without a reload. */

/**
 * Call every so many seconds while the page is in view, and at once when it comes back into view;
 * returns what ends it.
 */
export function whileSeen(call: () => void, seconds = 20): () => void {
  const again = () => {
    if (document.visibilityState === 'visible') call();
  };
  const clock = setInterval(again, seconds * 1000);
  document.addEventListener('visibilitychange', again);
  return () => {
    clearInterval(clock);
    document.removeEventListener('visibilitychange', again);
  };
}
