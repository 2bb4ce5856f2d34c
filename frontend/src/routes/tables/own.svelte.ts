/** A new own entry as it is typed; what is wrong stands at its field. */
import { api, problemText, type Problem } from '#lib/api/client.ts';
import type { Fields } from '#lib/plan.ts';

export class OwnForm {
  kind = $state('');
  key = $state('');
  body = $state<Fields>({});
  errors = $state.raw<Record<string, string>>({});
  failed = $state('');

  choose = (kind: string): void => {
    this.kind = kind;
    this.body = {};
    this.errors = {};
  };

  /** Send it; true when it is kept. */
  async keep(kind: string): Promise<boolean> {
    const { data, error } = await api
      .POST('/api/v1/own-entries', {
        body: { kind, key: this.key, body: $state.snapshot(this.body) },
      })
      .catch(() => ({ data: undefined, error: undefined }));
    const problem = error as Problem | undefined;
    this.errors = Object.fromEntries(
      (problem?.errors ?? []).map((e) => [e.path.replace('body/', '').split('/')[0]!, e.text]),
    );
    this.failed = data || Object.keys(this.errors).length ? '' : problemText(problem);
    if (data) {
      this.key = '';
      this.body = {};
    }
    return !!data;
  }
}
