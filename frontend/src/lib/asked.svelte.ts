/**
 * One question to the server on a screen: its answer, or the sentence that says why there is none.
 */
import { problemText } from './api/client';

/** An answer without content has no data, but its response is good all the same. */
type Answer<T> = Promise<{ data?: T; error?: unknown; response?: Pick<Response, 'ok'> }>;

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
    const { data, error, response } = await call().catch(() => ({
      data: undefined,
      error: undefined,
      response: undefined,
    }));
    if (own !== this.turn) return null;
    this.busy = false;
    this.failed = data === undefined && !response?.ok ? problemText(error) : '';
    if (data !== undefined) this.value = data;
    return data ?? null;
  }
}
