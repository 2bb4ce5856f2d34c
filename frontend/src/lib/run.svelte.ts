/**
 * A run on this device. Taps go to the outbox first and are sent in order; inside a round the
 * device walks on along `ahead` by itself, so that it neither waits for the network nor holds any
 * rule. At a decision it waits for the server.
 */
import { api, BACKGROUND, must, problemText, type Schemas } from './api/client';
import {
  answered,
  asSent,
  deviceOf,
  keepRun,
  keptRun,
  pictureDone,
  pictureOf,
  put,
  renumber,
  waiting,
  waitingOf,
  type Waiting,
} from './offline/outbox';
import { walkOn, type Later, type Step } from './offline/walk';
import { sentence } from './sentence';
import { session } from './session.svelte';

type View = Schemas['RunView'];
/** A run that is only looked at is asked for anew so often. */
const LOOK_MS = 2000;
/** What is said back when something was kept that changes nothing on the screen. */
const KEPT: Record<string, string> = {
  note: 'Note saved.',
  photo: 'Photo saved.',
  suggest: 'Saved for the planner.',
  problem: 'Problem saved: a supervisor accepts it by name.',
  tool: 'The wrench is changed.',
  resume: 'Settled.',
};

export class Run {
  view = $state<View | null>(null);
  state = $state.raw<Schemas['RunState'] | null>(null);
  /** What the server said to the last event when it did not simply accept it. */
  said = $state('');
  /** What was kept, for those who want to see that it was. */
  kept = $state('');
  /** A reading that the server asks back, to be sent again when it is meant. */
  asked = $state.raw<{ step: string; payload: Record<string, unknown> } | null>(null);
  /** True while an answer is on its way that has no step ahead of it. */
  busy = $state(false);
  unsent = $state.raw<Waiting[]>([]);
  /** How many taps of others wait on this device, for them to sign in. */
  others = $state(0);
  offline = $state(false);
  lost = $state(false);
  private retry: ReturnType<typeof setTimeout> | undefined;
  private looking: ReturnType<typeof setTimeout> | undefined;
  private sending: Promise<void> | null = null;
  private device = '';
  /** How many answers in a row asked for another number. */
  private gaps = 0;
  /** How many taps were put down here. */
  private taps = 0;
  /** Steps whose answer is being put down: until it waits in `unsent` nothing else tells of it. */
  private readonly down = new Set<string>();

  constructor(readonly id: string) {}

  get mine(): boolean {
    return this.view?.lease_device === this.device;
  }

  private get person(): string {
    return session.person?.id ?? '';
  }

  /** Read again what waits here; a tap made while it is read must not fall out of what is shown. */
  private async count(): Promise<Waiting[]> {
    for (;;) {
      const taps = this.taps;
      const { own, others } = await waiting(this.id, this.person);
      if (taps !== this.taps) continue;
      this.others = others;
      return (this.unsent = own);
    }
  }

  /**
   * The step to show: the server's, walked on past what is not sent yet; null where only the server
   * knows what comes.
   */
  readonly step = $derived.by<Step | null>(() =>
    walkOn(this.state?.instruction ?? null, this.unsent, this.later),
  );
  /** Rounds that were sent along for going on without network. */
  private later = $state.raw<Later>({});
  /** Whether the next step is not known without the server. */
  readonly needsServer = $derived(this.state?.instruction != null && this.step === null);
  readonly stopped = $derived(this.state?.stopped ?? []);

  async open(): Promise<void> {
    if (session.unreached) await session.load().catch(() => undefined);
    this.device = await deviceOf(this.person);
    await this.count();
    const answer = await api
      .GET('/api/v1/runs/{id}', { params: { path: { id: this.id } } })
      .catch(() => null);
    if (answer === null) {
      const kept = (await keptRun(this.id)) as View | undefined;
      if (!kept)
        throw new Error('No connection, and this run was not opened on this device before.');
      this.take(kept);
      this.offline = true;
      this.again();
      return;
    }
    this.take(must(answer));
    await this.flush();
  }

  private take(view: View): void {
    this.view = view;
    this.show(view.state);
    this.lost = !this.mine;
    clearTimeout(this.looking);
    // who looks on sees what the other does
    if (this.lost && view.head.under_way)
      this.looking = setTimeout(() => void this.look(), LOOK_MS);
    this.keep();
  }

  /** What was sent along goes on holding within its stage: it is sent once a round. */
  private show(state: Schemas['RunState']): void {
    const sent = Object.fromEntries((state.later ?? []).map((one) => [one.after, one.instruction]));
    const same = Object.values(this.later)[0]?.stage_id === state.instruction?.stage_id;
    this.later = same ? { ...this.later, ...sent } : sent;
    this.state = state;
    // what is shown can be answered, though it is still being put in order here
    this.busy = false;
  }

  /** Keep the run here as it stands, with what was sent along. */
  private keep(): void {
    if (!this.view || !this.state) return;
    const later = Object.entries(this.later).map(([after, instruction]) => ({
      after,
      instruction,
    }));
    void keepRun(this.id, $state.snapshot({ ...this.view, state: { ...this.state, later } }));
  }

  private async look(): Promise<void> {
    const asks = { params: { path: { id: this.id } }, headers: BACKGROUND };
    const answer = await api.GET('/api/v1/runs/{id}', asks).catch(() => null);
    if (answer?.data && this.lost) this.take(answer.data);
    else if (this.lost) this.looking = setTimeout(() => void this.look(), LOOK_MS);
  }

  async takeOver(): Promise<void> {
    // an answer given before the run is read as it stands now would be undone here by what was read
    // late
    this.busy = true;
    try {
      const lease = must(
        await api.POST('/api/v1/runs/{id}/lease', {
          params: { path: { id: this.id } },
          body: { device: this.device },
        }),
      );
      this.view = { ...this.view!, lease_epoch: lease.epoch, lease_device: this.device };
      await this.open();
    } finally {
      this.busy = false;
    }
  }

  /** Somebody else has this device from now on: the run goes on in their hands. */
  async handed(): Promise<void> {
    this.device = await deviceOf(this.person);
    await this.takeOver().catch(async (problem: unknown) => {
      // who may not take it looks on
      await this.open();
      throw problem;
    });
  }

  /** Record one answer, note, correction or signature. */
  async send(kind: string, step: string, payload: Record<string, unknown>): Promise<void> {
    await this.sendAll(kind, [{ step, payload }]);
  }

  /**
   * Record several at once, as for a whole round. A second answer to one step is a double tap and
   * dropped.
   */
  async sendAll(
    kind: string,
    answers: { step: string; payload: Record<string, unknown>; picture?: Blob }[],
  ): Promise<void> {
    if (!this.view || !this.state) return;
    if (kind === 'answer' && (this.busy || this.tapped(answers[0]?.step ?? ''))) return;
    if (kind !== 'answer') while (this.sending) await this.sending;
    this.said = this.kept = '';
    this.asked = null;
    const head = {
      run: this.id,
      kind,
      lease: this.view.lease_epoch,
      last_seen: this.state.sequence,
    };
    if (kind === 'answer') answers.forEach(({ step }) => this.down.add(step));
    try {
      for (const { step, payload, picture } of answers) {
        const event = await put(
          this.person,
          { ...head, step, payload },
          this.about(step, payload),
          picture,
        );
        this.taps += 1;
        if (!this.unsent.some((e) => e.id === event.id)) this.unsent = [...this.unsent, event];
      }
    } finally {
      answers.forEach(({ step }) => this.down.delete(step));
    }
    this.busy = kind !== 'answer' || this.needsServer;
    await this.flush();
    this.busy = false;
    if (!this.said) this.kept = KEPT[kind] ?? '';
  }

  /** Whether a step was answered here already, though the server has not said so yet. */
  private tapped(step: string): boolean {
    return this.down.has(step) || this.unsent.some((e) => e.kind === 'answer' && e.step === step);
  }

  /**
   * Sign in a role, with the password or the PIN again. What is wrong with it is thrown as a
   * sentence.
   */
  async sign(role: string, password: string): Promise<void> {
    const body = { role, password } as Schemas['Signing'];
    this.state = must(
      await api.POST('/api/v1/runs/{id}/signature', { params: { path: { id: this.id } }, body }),
    );
  }

  /** The reading that was asked back is meant. */
  async meant(): Promise<void> {
    const { step, payload } = this.asked!;
    await this.send('answer', step, { ...payload, sure: true });
  }

  /** The bolts of a step that is known here, and how they look after an answer. */
  private about(
    step: string,
    payload: Record<string, unknown>,
  ): Pick<Waiting, 'places' | 'leaves'> {
    const now = this.step;
    const places =
      now?.step === step ? now.places : (now?.ahead.find((a) => a.step === step)?.places ?? []);
    return { places, leaves: now?.buttons.find((b) => b.answer === payload.answer)?.leaves };
  }

  /**
   * What the server says this person may do here: some of it on the device that holds the run
   * alone.
   */
  may(action: string): boolean {
    const { actions = [], held = [] } = this.state ?? {};
    return actions.includes(action) && !(this.lost && held.includes(action));
  }

  /** Send what waits, one batch at a time; on failure it keeps waiting and is tried again. */
  async flush(): Promise<void> {
    while (this.sending) await this.sending;
    clearTimeout(this.retry);
    const events = (await this.count()).slice(0, 100);
    if (!events.length) return;
    this.sending = this.batch(events).finally(() => (this.sending = null));
    await this.sending;
  }

  private async batch(events: Waiting[]): Promise<void> {
    if (session.unreached) await session.load().catch(() => undefined);
    if (session.unreached) {
      this.offline = true;
      return this.again();
    }
    if (!(await this.pictures(events))) return this.again();
    const { data, error, response } = await api
      .POST('/api/v1/runs/{id}/events', {
        params: { path: { id: this.id } },
        body: { sent_at: new Date().toISOString(), events: events.map(asSent) },
      })
      .catch(() => ({ data: undefined, error: undefined, response: undefined }));
    if (!data) {
      this.offline = !response || response.status >= 500;
      this.said = this.offline ? '' : problemText(error);
      this.again();
      return;
    }
    this.offline = false;
    let gap: number | null = null;
    for (const [i, answer] of data.answers.entries()) {
      const event = events[i]!;
      if (answer.verdict === 'gap') gap ??= answer.missing ?? null;
      // what belongs to somebody else waits for that person
      else if (answer.verdict !== 'other') await answered(event);
      if (['refused', 'conflict'].includes(answer.verdict)) this.said = answer.text;
      if (answer.code === 'reading_unlikely')
        this.asked = { step: event.step, payload: event.payload };
      if (answer.code === 'lease_lost') this.lost = true;
    }
    // numbered anew and sent again at once; a server that goes on asking, as after it was put back
    // to an older day, is asked less and less often
    this.gaps = gap === null ? 0 : this.gaps + 1;
    if (gap !== null) await renumber(this.id, this.person, gap);
    // before what waits is read again: the other way round the step before would be shown for a
    // moment, and lock the next tap
    this.show(data.state);
    await this.count();
    this.keep();
    if (this.unsent.length) this.again(Math.min(20 * 2 ** Math.max(0, this.gaps - 1), 20_000));
  }

  private again(after = 2000): void {
    clearTimeout(this.retry);
    this.retry = setTimeout(() => void this.flush(), after);
  }

  /** Keep a photo; without network it waits here like every answer. */
  async photo(step: string, file: File, text: string): Promise<void> {
    await this.sendAll('photo', [{ step, payload: { text }, picture: file }]);
  }

  /** Send the pictures of some events, which then name them. False when they have to wait. */
  private async pictures(events: Waiting[]): Promise<boolean> {
    for (const event of events) {
      const picture = await pictureOf(event);
      if (!picture) continue;
      const { data, error, response } = await api
        .POST('/api/v1/runs/{id}/photos', {
          params: { path: { id: this.id } },
          body: picture as never,
          bodySerializer: (body) => body as never,
          headers: { 'Content-Type': picture.type || 'image/jpeg' },
        })
        .catch(() => ({ data: undefined, error: undefined, response: undefined }));
      if (data) event.payload = { ...event.payload, photo: data.id };
      else if (response?.status !== 422 && response?.status !== 413) {
        this.offline = !response || response.status >= 500;
        if (!this.offline) this.said = problemText(error);
        return false;
      } else {
        // its number in the row of events is taken: it stays as a note that says why there is no
        // picture
        this.said = problemText(error);
        event.kind = 'note';
        event.payload = { text: sentence('run.photo_not_saved', { why: this.said }) };
      }
      await pictureDone(event);
    }
    return true;
  }

  close(): void {
    clearTimeout(this.retry);
    clearTimeout(this.looking);
  }
}

/**
 * Send what a person tapped in other runs and could not send then; what fails again goes on
 * waiting.
 */
export async function sendKept(person: string): Promise<void> {
  for (const id of Object.keys(await waitingOf(person))) {
    const run = new Run(id);
    await run.open().catch(() => undefined);
    run.close();
  }
}
