/** The keys that the current screen offers, for the `?` list. */
import type { Key } from '../keys';

export const help = $state<{ keys: Key[]; open: boolean }>({ keys: [], open: false });
