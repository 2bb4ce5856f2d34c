/** The Bench: a draft being edited, computed while typing, saved as typed. Rules stay on the server. */
import { tick } from 'svelte';
import { api, must, sentence, type Schemas } from './api/client';
import type { Plan } from './plan';
import { History } from './history.svelte';
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
  /** Places of values that are still those of the example. */
  examples = $state.raw<Set<string>>(new Set());
  /** For every finding of the result where it is mended. */
  opens = $state.raw<Schemas['Mended'][]>([]);
  /** For every wrong field where it stands, with its sentence. */
  wrong = $state.raw<(Schemas['Mended'] & { text: string })[]>([]);
  /** The field that a finding points to, with what would mend it; until the next change of the plan. */
  private pointed = $state.raw<{ field: string; text: string } | null>(null);
  /** Cautions that a release takes on by name. */
  toTakeOn = $state.raw<Schemas['TakeOn'][]>([]);
  /** True while the shown result is not that of the shown document. */
  stale = $state(false);
  view = $state<Schemas['DraftView'] | null>(null);
  version = $state(0);
  saved = $state('');
  failed = $state('');
  aside = $state('');
  /** The section that is open. */
  open = $state('');
  /** The finding that is to be taken on with a reason, by its key. */
  asking = $state.raw<Schemas['FindingOut'] | null>(null);
  /** The line from the manual is asked for, by its key. */
  manual = $state(false);
  readonly history = new History();
  private text = '';
  /** What the server has. */
  private kept = '';
  private computing: Promise<void> | null = null;
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
    this.history.clear();
    this.saved = view.saved_at;
    this.aside = '';
    await this.compute();
  }

  /** The sentence at a field, by its path in the document. */
  error(path: string): string {
    return this.errors[path] ?? (this.pointed?.field === path ? this.pointed.text : '');
  }

  /** The first sentence at a field or at anything inside it. */
  errorIn(path: string): string {
    const place = path.replaceAll('.', '/');
    const within = (at: string) => at === place || at.startsWith(`${place}/`);
    const wrong = Object.entries(this.errors).find(([at]) => within(at))?.[1];
    return wrong ?? (this.pointed && within(this.pointed.field) ? this.pointed.text : '');
  }

  /** Called with the document as text, at every change of it. */
  changed(text: string): void {
    if (!this.draft || text === this.text) return;
    this.history.keep(this.text);
    this.text = text;
    this.pointed = null;
    this.stale = true;
    void this.compute();
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), 700);
  }

  /**
   * An act on the plan by its name: the server changes the document and says which section to open. One at a time; what was
   * typed while it was under way is kept, and the act is done again on it. With `stay` no other section is opened.
   */
  async act(act: string, params: Record<string, string> = {}, stay = false): Promise<void> {
    this.acting = this.acting.then(() => this.once(act, params, stay));
    return this.acting;
  }

  private async once(act: string, params: Record<string, string>, stay: boolean): Promise<void> {
    const document = $state.snapshot(this.doc);
    const { data, error } = await api
      .POST('/api/v1/edits', { body: { document, act, params } })
      .catch(() => ({ data: undefined, error: undefined }));
    if (!data) this.failed = sentence(error);
    else if (JSON.stringify(this.doc) === JSON.stringify(document)) this.take(stay ? { ...data, opens: '' } : data);
    else await this.once(act, params, stay);
  }

  /** Open the section in which a finding is mended and stand in its field, with what would mend it beside it. */
  async goTo({ section, field }: Schemas['Mended'], text: string): Promise<void> {
    if (section) this.open = section;
    this.pointed = { field, text };
    await tick();
    await tick();
    const at = document.querySelector(section ? `[data-section="${CSS.escape(section)}"]` : 'main');
    const wrong = [...(at?.querySelectorAll<HTMLElement>('[aria-invalid="true"]') ?? [])];
    const said = (one: HTMLElement) => document.getElementById(one.getAttribute('aria-describedby') ?? '')?.innerText === text;
    const found = wrong.find(said) ?? wrong[0] ?? at?.querySelector<HTMLElement>('input, select') ?? at?.querySelector('button');
    found?.scrollIntoView({ block: 'center' });
    found?.focus();
    // what is typed then takes the place of what stands there
    if (found instanceof HTMLInputElement && found.type === 'text') found.select();
  }

  /** One act back, or forward again. */
  undo = (): void => this.restore(this.history.back(this.text));
  redo = (): void => this.restore(this.history.forward(this.text));

  private restore(text: string | undefined): void {
    if (text === undefined) return;
    this.text = '';
    this.draft = JSON.parse(text) as Plan;
  }

  /** One part as another version of the plan has it. */
  async takeOver(version: string, path: string): Promise<void> {
    const { data, error } = await api
      .POST('/api/v1/plans/{id}/take-over', {
        params: { path: { id: this.id } },
        body: { document: $state.snapshot(this.doc), version, path },
      })
      .catch(() => ({ data: undefined, error: undefined }));
    if (data) this.take(data);
    else this.failed = sentence(error);
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
  private compute(): Promise<void> {
    this.again = true;
    this.computing ??= this.computed().finally(() => (this.computing = null));
    return this.computing;
  }

  private async computed(): Promise<void> {
    while (this.again) {
      this.again = false;
      const { data, error } = await api
        // the text is at hand: the whole document is not walked a second time
        .POST('/api/v1/bench', { body: this.doc, bodySerializer: () => this.text })
        .catch(() => ({ data: undefined, error: undefined }));
      if (this.again) continue;
      if (data) this.show(data);
      else this.failed = sentence(error);
    }
  }

  /** Once every act that was asked for is done, and what is there now is computed. */
  async quiet(): Promise<void> {
    await this.acting;
    await tick();
    await this.computing;
    await tick();
  }

  private show(found: Schemas['BenchOut']): void {
    if (found.result) this.result = steady(this.result, found.result);
    this.sections = steady(this.sections, found.sections);
    this.errors = Object.fromEntries(found.errors.map((e) => [e.path, e.text]));
    this.stops = found.stops;
    this.cautions = found.cautions;
    this.examples = new Set(found.examples);
    this.opens = found.opens;
    this.wrong = found.wrong.map((one, i) => ({ ...one, text: found.errors[i]!.text }));
    this.toTakeOn = steady(this.toTakeOn, found.to_take_on);
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

  async release(reason: string, takenOn: string[]): Promise<Schemas['ReleaseOut'] | null> {
    if (!(await this.save())) return null;
    const { data, error } = await api
      .POST('/api/v1/plans/{id}/release', {
        params: { path: { id: this.id } },
        headers: { 'If-Match': `"${this.version}"` },
        body: { reason, taken_on: takenOn },
      })
      .catch(() => ({ data: undefined, error: undefined }));
    if (!data) this.failed = sentence(error);
    else this.view = { ...this.view!, revision_id: data.id, revision_number: data.number };
    return data ?? null;
  }
}
