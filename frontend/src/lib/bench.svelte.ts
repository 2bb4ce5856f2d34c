/**
 * The Bench: a draft being edited, saved and computed as it is typed, in one request. Rules stay on
 * the server.
 */
import { tick } from 'svelte';
import { api, must, problemText, type Schemas } from './api/client';
import type { Plan } from './plan';
import { History } from './history.svelte';
import { sentence } from './sentence';
import { session } from './session.svelte';
import { steady } from './steady';

/** An act that is asked for. */
interface Act {
  act: string;
  params: Record<string, string>;
  /** No other section is opened. */
  stay: boolean;
  done: () => void;
}

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
  /** By `group/limit`, the field that sets the limit. */
  limitFields = $state.raw<Record<string, Schemas['Mended']>>({});
  /**
   * The field that a finding points to, with what would mend it; until the next change of the plan.
   */
  private pointed = $state.raw<{ field: string; text: string } | null>(null);
  /** Cautions that a release takes on by name. */
  toTakeOn = $state.raw<Schemas['TakeOn'][]>([]);
  /** True while the shown result is not that of the shown document. */
  stale = $state(false);
  view = $state<Schemas['DraftView'] | null>(null);
  version = $state(0);
  saved = $state('');
  /** True while something is on its way: an act, a save, a computation. */
  busy = $state(false);
  failed = $state('');
  aside = $state('');
  /** The section that is open. */
  open = $state('');
  /** The finding that is to be waived with a reason, by its key. */
  asking = $state.raw<Schemas['FindingOut'] | null>(null);
  /** The line from the manual is asked for, by its key. */
  manual = $state(false);
  readonly history = new History();
  /** The document as text: what is there now, and what the server has. */
  private text = '';
  private kept = '';
  /** The text that the shown result was computed from. */
  private shown = '';
  private acts: Act[] = [];
  private going: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(readonly id: string) {}

  /** Whether this person may change the plan. */
  private get mine(): boolean {
    return session.may('planning.edit_draft');
  }

  /** The draft where it is open: the sections are shown then and not before. */
  get doc(): Plan {
    return this.draft!;
  }

  async load(): Promise<void> {
    const view = must(
      await api.GET('/api/v1/plans/{id}/draft', { params: { path: { id: this.id } } }),
    );
    this.view = view;
    this.version = view.version;
    this.draft = view.document;
    this.text = this.kept = JSON.stringify(view.document);
    this.shown = '';
    this.history.clear();
    this.saved = view.saved_at;
    this.aside = '';
    await this.go();
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
    this.stale = this.shown !== text;
    void this.go();
  }

  /**
   * An act on the plan by its name: the server changes the document and says which section to open.
   * One at a time; what was typed while it was under way is kept, and the act is done again on it.
   * With `stay` no other section is opened.
   */
  act(act: string, params: Record<string, string> = {}, stay = false): Promise<void> {
    return new Promise((done) => {
      this.acts.push({ act, params, stay, done });
      void this.go();
    });
  }

  /**
   * Whether anything is to be sent: an act, something typed, or a document that is not computed
   * yet.
   */
  private get waiting(): boolean {
    return !!this.acts.length || this.text !== this.kept || this.shown !== this.text;
  }

  /**
   * One request at a time, each with all that is there: what is saved and what is shown are always
   * of one document.
   */
  private async go(): Promise<void> {
    clearTimeout(this.timer);
    if (!this.going && this.waiting) this.going = this.turns();
    await this.going;
  }

  private async turns(): Promise<void> {
    this.busy = true;
    try {
      while (this.waiting) if (!(await this.turn())) return;
    } finally {
      // in the same moment: what is asked for from here on begins a new one
      this.going = null;
      this.busy = false;
    }
  }

  /** What is typed, or one act, saved and computed in one request; false when it has to wait. */
  private async turn(): Promise<boolean> {
    const text = this.text;
    // what is typed first: an act that is refused takes nothing of it along
    const act = text === this.kept ? this.acts.shift() : undefined;
    if (this.aside) {
      // beside a version that somebody saved first: kept aside anew at every pause
      this.timer = setTimeout(
        () => void this.send(`{"version":${this.version},"acts":[],"document":${this.text}}`),
        700,
      );
      return this.looked(text, act);
    }
    if (!this.mine) return this.looked(text, act);
    const parts = [
      `"version":${this.version}`,
      `"acts":${JSON.stringify(act ? [{ act: act.act, params: act.params }] : [])}`,
    ];
    if (text !== this.kept) parts.push(`"document":${text}`);
    const { data, error, response } = await this.send(`{${parts.join()}}`);
    if (data) this.took(data, text, act);
    else if (response?.status === 412) {
      // kept aside, as far as it goes; here it is only computed
      this.aside = problemText(error);
      return this.looked(text, act);
    } else if (act) this.failed = problemText(error);
    else {
      this.failed = sentence('bench.not_saved', { why: problemText(error) });
      this.timer = setTimeout(() => void this.go(), 4000);
      return false;
    }
    if (!data) act?.done();
    return true;
  }

  /** The text is at hand: the whole document is not walked a second time. */
  private send(body: string) {
    return api
      .POST('/api/v1/plans/{id}/edits', {
        params: { path: { id: this.id } },
        body: { version: this.version },
        bodySerializer: () => body,
      })
      .catch(() => ({ data: undefined, error: undefined, response: undefined }));
  }

  private took(data: Schemas['EditedOut'], text: string, act: Act | undefined): void {
    this.version = data.version;
    this.saved = data.saved_at;
    this.failed = '';
    this.kept = data.document ? JSON.stringify(data.document) : text;
    if (this.text !== text) {
      // typed meanwhile: the act is done again on what is there now
      if (act) this.acts.unshift(act);
      return;
    }
    if (data.document) {
      // the text first: what watches the document then has nothing to send
      this.history.keep(this.text);
      this.text = this.kept;
      this.draft = data.document;
      if (data.opens && !act?.stay) this.open = data.opens;
    }
    this.show(data.view, this.kept);
    act?.done();
  }

  /**
   * Computed only: for those who may not change plans, and beside a version that somebody saved
   * first.
   */
  private async looked(text: string, act: Act | undefined): Promise<boolean> {
    const { data, error } = await api
      .POST('/api/v1/bench', { body: this.doc, bodySerializer: () => text })
      .catch(() => ({ data: undefined, error: undefined }));
    if (act) this.failed = this.aside || 'Only a planner changes a plan.';
    act?.done();
    this.kept = text;
    if (data && this.text === text) this.show(data, text);
    else if (!data) this.failed = problemText(error);
    return !!data;
  }

  /**
   * Open the section in which a finding is mended and stand in its field, with what would mend it
   * beside it.
   */
  async goTo({ section, field }: Schemas['Mended'], text: string): Promise<void> {
    if (section) this.open = section;
    this.pointed = { field, text };
    await tick();
    await tick();
    const at = document.querySelector(section ? `[data-section="${CSS.escape(section)}"]` : 'main');
    const wrong = [...(at?.querySelectorAll<HTMLElement>('[aria-invalid="true"]') ?? [])];
    const said = (one: HTMLElement) =>
      document.getElementById(one.getAttribute('aria-describedby') ?? '')?.innerText === text;
    const found =
      wrong.find(said) ??
      wrong[0] ??
      at?.querySelector<HTMLElement>('input, select') ??
      at?.querySelector('button');
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
    else this.failed = problemText(error);
  }

  /**
   * The document of a file takes the draft's place; what is wrong in it stands at its field, like
   * anything typed.
   */
  async bring(text: string): Promise<void> {
    const { data, error } = await api
      .POST('/api/v1/plan-file', { body: { text, joint: this.doc.joint ?? null } })
      .catch(() => ({ data: undefined, error: undefined }));
    if (data) this.take(data);
    else this.failed = problemText(error);
  }

  private take(edited: Schemas['EditOut']): void {
    this.draft = edited.document;
    this.failed = '';
    if (edited.opens) this.open = edited.opens;
  }

  /** Once every act that was asked for is done, and what is there now is saved and computed. */
  async quiet(): Promise<void> {
    await tick();
    await this.going;
    await tick();
  }

  private show(found: Schemas['BenchOut'], text: string): void {
    if (found.result) this.result = steady(this.result, found.result);
    this.sections = steady(this.sections, found.sections);
    this.errors = Object.fromEntries(found.errors.map((e) => [e.path, e.text]));
    this.stops = found.stops;
    this.cautions = found.cautions;
    this.examples = new Set(found.examples);
    this.opens = found.opens;
    this.limitFields = found.limit_fields;
    this.wrong = found.wrong.map((one, i) => ({ ...one, text: found.errors[i]!.text }));
    this.toTakeOn = steady(this.toTakeOn, found.to_take_on);
    this.shown = text;
    this.stale = !found.result;
  }

  /** Wait until what is there now is saved. True when the server has it. */
  async save(): Promise<boolean> {
    await tick();
    await this.go();
    return this.mine && !this.aside && this.text === this.kept;
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
    if (!data) this.failed = problemText(error);
    else this.view = { ...this.view!, revision_id: data.id, revision_number: data.number };
    return data ?? null;
  }
}
