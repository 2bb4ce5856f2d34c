/** One quick sum: what is typed, what it comes to, what is wrong; nothing is created. */
import { replaceState } from '$app/navigation';
import { api, problemText, type Problem, type Schemas } from '#lib/api/client.ts';

export class Sum {
  texts = $state<Record<string, string>>({});
  found = $state.raw<Schemas['SumAnswer'] | null>(null);
  errors = $state.raw<Record<string, string>>({});
  failed = $state('');
  /** True while the shown answer is not that of what is typed. */
  stale = $state(false);
  private turn = 0;

  /** Begin with what the address says, else with the example. */
  begin(given: Record<string, string>, example: Record<string, string>): void {
    this.texts = Object.keys(given).length ? given : { ...example };
    this.found = null;
  }

  /** What is typed goes into the address, so that it can be kept and sent. */
  type = (name: string, text: string): void => {
    this.texts[name] = text;
    const query = new URLSearchParams(Object.entries(this.texts).filter(([, value]) => value));
    replaceState(`${location.pathname}?${query}`, {});
  };

  async ask(asked: Schemas['SumOut'], now: Record<string, string>): Promise<void> {
    const own = ++this.turn;
    this.stale = true;
    const texts: Record<string, string> = {};
    for (const field of asked.fields) {
      const text = now[field.name]?.trim();
      if (text) texts[field.name] = text;
    }
    const { data, error } = await api
      .POST('/api/v1/sums/{name}', { params: { path: { name: asked.name } }, body: { texts } })
      .catch(() => ({ data: undefined, error: undefined }));
    if (own !== this.turn) return;
    const problem = error as Problem | undefined;
    this.errors = Object.fromEntries(
      (problem?.errors ?? []).filter((e) => e.path).map((e) => [e.path, e.text]),
    );
    this.failed = data || Object.keys(this.errors).length ? '' : problemText(problem);
    if (!data) return;
    this.found = data;
    this.stale = false;
  }
}
