/** Keys of a screen: one table per screen, listed by `?`. */

export interface Key {
  /** `KeyboardEvent.key`, or `space`. */
  key: string;
  words: string;
  run: () => void;
  /** With Alt held, so that it answers while one types too. */
  alt?: boolean;
}

function named(event: KeyboardEvent): string {
  return event.key === ' ' ? 'space' : event.key.length === 1 ? event.key.toLowerCase() : event.key;
}

/** Whether typing goes into a field just now. */
export function typing(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  return (
    !!target &&
    (['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) || target.isContentEditable)
  );
}

/**
 * Run the key of a table that matches; held keys and keys with other modifiers are left alone, and
 * all while a box is open.
 */
export function press(event: KeyboardEvent, table: Key[]): boolean {
  if (event.view?.document.querySelector('dialog[open]')) return false;
  if (event.repeat || event.ctrlKey || event.metaKey || (!event.altKey && typing(event)))
    return false;
  const found = table.find((entry) => entry.key === named(event) && !!entry.alt === event.altKey);
  if (!found) return false;
  event.preventDefault();
  found.run();
  return true;
}
