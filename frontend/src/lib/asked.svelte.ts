/** One question to the server on a screen: its answer, or the sentence that says why there is none. */
import { sentence } from './api/client';

type Answer<T> = Promise<{ data?: T; error?: unknown }>;

export class Asked<T> {
  value = $state.raw<T | null>(null);
  failed = $state('');
  /** True while an answer is awaited. */
  busy = $state(false);
  private turn = 0;

  /** Ask; of several under way only the last counts. Gives the answer back where there is one. */
  async ask(call: () => Answer<T>): Promise<T | null> {
    const own = ++this.turn;
    this.busy = true;
    const { data, error } = await call().catch(() => ({ data: undefined, error: undefined }));
    if (own !== this.turn) return null;
    this.busy = false;
    this.failed = data === undefined ? sentence(error) : '';
    if (data !== undefined) this.value = data;
    return data ?? null;
  }
}
