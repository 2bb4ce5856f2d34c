/** The Bench: a draft being edited, computed while typing, saved as typed. Rules stay on the server. */
import { api, must, sentence, type Schemas } from './api/client';
import type { Plan } from './plan';
import { steady } from './steady';

export class Bench {
  /** The draft; empty until it is open. */
  draft = $state<Plan | null>(null);
  /** Replaced whole at every answer, never changed in place. */
  result = $state.raw<Schemas['Result'] | null>(null);
  sections = $state.raw<Schemas['Section'][]>([]);
  errors = $state<Record<string, string>>({});
  stops = $state(0);
  cautions = $state(0);
  /** True while the shown result is not that of the shown document. */
  stale = $state(false);
  view = $state<Schemas['DraftView'] | null>(null);
  version = $state(0);
  saved = $state('');
  failed = $state('');
  aside = $state('');
  /** The section that is open. */
  open = $state('');
  private text = '';
  /** What the server has. */
  private kept = '';
  private computing = false;
  private again = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private saving: Promise<boolean> | null = null;
  private acting: Promise<void> = Promise.resolve();

  constructor(readonly id: string) {}

  /** The draft where it is open: the sections are shown then and not before. */
  get doc(): Plan {
    return this.draft!;
  }

  async load(): Promise<void> {
    const view = must(await api.GET('/api/v1/plans/{id}/draft', { params: { path: { id: this.id } } }));
    this.view = view;
    this.version = view.version;
    this.draft = view.document;
    this.text = this.kept = JSON.stringify(view.document);
    this.saved = view.saved_at;
    this.aside = '';
    await this.compute();
  }

  /** The sentence at a field, by its path in the document. */
  error(path: string): string {
    return this.errors[path] ?? '';
  }

  /** The first sentence at a field or at anything inside it. */
  errorIn(path: string): string {
    return Object.entries(this.errors).find(([at]) => at === path || at.startsWith(`${path}/`))?.[1] ?? '';
  }

  /** Called with the document as text, at every change of it. */
  changed(text: string): void {
    if (!this.draft || text === this.text) return;
    this.text = text;
    this.stale = true;
    void this.compute();
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), 700);
  }

  /**
   * An act on the plan by its name: the server changes the document and says which section to open. One at a time; what was
   * typed while it was under way is kept, and the act is done again on it.
   */
  async act(act: string, params: Record<string, string> = {}): Promise<void> {
    this.acting = this.acting.then(() => this.once(act, params));
    return this.acting;
  }

  private async once(act: string, params: Record<string, string>): Promise<void> {
    const document = $state.snapshot(this.doc);
    const { data, error } = await api
      .POST('/api/v1/edits', { body: { document, act, params } })
      .catch(() => ({ data: undefined, error: undefined }));
    if (!data) this.failed = sentence(error);
    else if (JSON.stringify(this.doc) === JSON.stringify(document)) this.take(data);
    else await this.once(act, params);
  }

  /** The document of a file takes the draft's place; what is wrong in it stands at its field, like anything typed. */
  async bring(text: string): Promise<void> {
    const { data, error } = await api
      .POST('/api/v1/plan-file', { body: { text, joint: this.doc.joint ?? null } })
      .catch(() => ({ data: undefined, error: undefined }));
    if (data) this.take(data);
    else this.failed = sentence(error);
  }

  private take(edited: Schemas['EditOut']): void {
    this.draft = edited.document;
    this.failed = '';
    if (edited.opens) this.open = edited.opens;
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
      const { data, error } = await api
        // the text is at hand: the whole document is not walked a second time
        .POST('/api/v1/bench', { body: this.doc, bodySerializer: () => this.text })
        .catch(() => ({ data: undefined, error: undefined }));
      if (this.again) continue;
      if (data) this.show(data);
      else this.failed = sentence(error);
    } while (this.again);
    this.computing = false;
  }

  private show(found: Schemas['BenchOut']): void {
    if (found.result) this.result = steady(this.result, found.result);
    this.sections = steady(this.sections, found.sections);
    this.errors = Object.fromEntries(found.errors.map((e) => [e.path, e.text]));
    this.stops = found.stops;
    this.cautions = found.cautions;
    this.stale = !found.result;
    this.failed = '';
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

  async release(): Promise<Schemas['ReleaseOut'] | null> {
    if (!(await this.save())) return null;
    const { data, error } = await api
      .POST('/api/v1/plans/{id}/release', {
        params: { path: { id: this.id } },
        headers: { 'If-Match': `"${this.version}"` },
      })
      .catch(() => ({ data: undefined, error: undefined }));
    if (!data) this.failed = sentence(error);
    return data ?? null;
  }
}
