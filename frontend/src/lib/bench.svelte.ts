/** The Bench: a draft being edited, computed while typing, saved as typed. Rules stay on the server. */
import { api, must, sentence, type Problem, type Schemas } from './api/client';
import { steady } from './steady';

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- a draft is whatever was typed; the server judges it
export type Doc = any;

export class Bench {
  doc = $state<Doc>(null);
  /** Replaced whole at every answer, never changed in place. */
  result = $state.raw<Schemas['Result'] | null>(null);
  errors = $state<Record<string, string>>({});
  /** True while the shown result is not that of the shown document. */
  stale = $state(false);
  view = $state<Schemas['DraftView'] | null>(null);
  version = $state(0);
  saved = $state('');
  failed = $state('');
  aside = $state('');
  private text = '';
  /** What the server has. */
  private kept = '';
  private computing = false;
  private again = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private saving: Promise<boolean> | null = null;

  constructor(readonly id: string) {}

  async open(): Promise<void> {
    const view = must(await api.GET('/api/v1/plans/{id}/draft', { params: { path: { id: this.id } } }));
    this.view = view;
    this.version = view.version;
    this.doc = view.document;
    this.text = this.kept = JSON.stringify(view.document);
    this.saved = view.saved_at;
    this.aside = '';
    await this.compute();
  }

  /** Called with the document as text, at every change of it. */
  changed(text: string): void {
    if (!this.doc || text === this.text) return;
    this.text = text;
    this.stale = true;
    void this.compute();
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), 700);
  }

  /** One computation at a time; what was typed meanwhile is computed next. */
  private async compute(): Promise<void> {
    if (this.computing) {
      this.again = true;
      return;
    }
    this.computing = true;
    do {
      this.again = false;
      const answer = await api
        // the text is at hand: the whole document is not walked a second time
        .POST('/api/v1/compute', { body: this.doc, bodySerializer: () => this.text })
        .catch(() => ({ data: undefined, error: undefined, response: undefined }));
      if (this.again) continue;
      if (answer.data) {
        this.result = steady(this.result, answer.data);
        this.errors = {};
        this.failed = '';
        this.stale = false;
      } else {
        const problem = answer.error as Problem | undefined;
        this.errors = Object.fromEntries((problem?.errors ?? []).map((e) => [e.path, e.text]));
        this.failed = problem?.errors?.length ? '' : sentence(problem);
        this.stale = true;
      }
    } while (this.again);
    this.computing = false;
  }

  /** Save what is there now; waits for a save that is under way. True when the server has it. */
  async save(): Promise<boolean> {
    while (this.saving) await this.saving;
    clearTimeout(this.timer);
    this.saving = this.put().finally(() => (this.saving = null));
    return this.saving;
  }

  private async put(): Promise<boolean> {
    const sent = JSON.stringify(this.doc);
    if (sent === this.kept) return true;
    const { data, error, response } = await api
      .PUT('/api/v1/plans/{id}/draft', {
        params: { path: { id: this.id } },
        headers: { 'If-Match': `"${this.version}"` },
        body: { document: JSON.parse(sent) },
      })
      .catch(() => ({ data: undefined, error: undefined, response: undefined }));
    if (data) {
      this.version = data.version;
      this.kept = sent;
      this.saved = new Date().toISOString();
      this.failed = '';
      if (JSON.stringify(this.doc) !== sent) this.timer = setTimeout(() => void this.save(), 700);
      return true;
    }
    if (response?.status === 412) this.aside = sentence(error);
    else {
      this.failed = `Not saved: ${sentence(error)}`;
      this.timer = setTimeout(() => void this.save(), 4000);
    }
    return false;
  }

  async release(): Promise<{ id: string; number: number } | null> {
    if (!(await this.save())) return null;
    const { data, error } = await api.POST('/api/v1/plans/{id}/release', {
      params: { path: { id: this.id } },
      headers: { 'If-Match': `"${this.version}"` },
    });
    if (!data) {
      this.failed = sentence(error);
      return null;
    }
    return data;
  }
}
