/**
 * A run on this device. Taps go to the outbox first and are sent in order; inside a round the device walks on along
 * `ahead` by itself, so that it neither waits for the network nor holds any rule. At a decision it waits for the server.
 */
import { api, must, sentence, type Schemas } from './api/client';
import { deviceId } from './offline/device';
import { answered, asSent, keepRun, keptRun, pictureDone, pictureOf, put, waiting, type Waiting } from './offline/outbox';
import { walkOn, type Step } from './offline/walk';
import { session } from './session.svelte';

type View = Schemas['RunView'];

export class Run {
  view = $state<View | null>(null);
  state = $state.raw<Schemas['RunState'] | null>(null);
  /** What the server said to the last event when it did not simply accept it. */
  said = $state('');
  /** True while an answer is on its way that has no step ahead of it. */
  busy = $state(false);
  unsent = $state.raw<Waiting[]>([]);
  offline = $state(false);
  lost = $state(false);
  private retry: ReturnType<typeof setTimeout> | undefined;
  private sending: Promise<void> | null = null;

  constructor(readonly id: string) {}

  get mine(): boolean {
    return this.view?.lease_device === deviceId();
  }

  /** The step to show: the server's, walked on past what is not sent yet; null where only the server knows what comes. */
  readonly step = $derived.by<Step | null>(() => walkOn(this.state?.instruction ?? null, this.unsent));
  /** Whether the next step is not known without the server. */
  readonly needsServer = $derived(this.state?.instruction != null && this.step === null);

  async open(): Promise<void> {
    if (session.unreached) await session.load().catch(() => undefined);
    this.unsent = await waiting(this.id);
    const answer = await api.GET('/api/v1/runs/{id}', { params: { path: { id: this.id } } }).catch(() => null);
    if (answer === null) {
      const kept = (await keptRun(this.id)) as View | undefined;
      if (!kept) throw new Error('No connection, and this run was not opened on this device before.');
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
    this.state = view.state;
    this.lost = !this.mine;
    void keepRun(this.id, $state.snapshot(view));
  }

  async takeOver(): Promise<void> {
    const lease = must(
      await api.POST('/api/v1/runs/{id}/lease', { params: { path: { id: this.id } }, body: { device: deviceId() } }),
    );
    this.view = { ...this.view!, lease_epoch: lease.epoch, lease_device: deviceId() };
    this.lost = false;
    await this.open();
  }

  /** Record one answer, note, correction or signature. */
  async send(kind: string, step: string, payload: Record<string, unknown>): Promise<void> {
    await this.sendAll(kind, [{ step, payload }]);
  }

  /** Record several at once, as for a whole round. A second answer to one step is a double tap and dropped. */
  async sendAll(kind: string, answers: { step: string; payload: Record<string, unknown>; picture?: Blob }[]): Promise<void> {
    if (!this.view || !this.state) return;
    if (kind === 'answer' && (this.busy || this.unsent.some((e) => e.kind === 'answer' && e.step === answers[0]?.step))) return;
    if (kind !== 'answer') while (this.sending) await this.sending;
    this.said = '';
    for (const { step, payload, picture } of answers) {
      const about = this.about(step, payload);
      const event = await put(this.id, step, kind, payload, this.view.lease_epoch, this.state.sequence, about, picture);
      this.unsent = [...this.unsent, event];
    }
    this.busy = kind !== 'answer' || this.needsServer;
    await this.flush();
    this.busy = false;
  }

  /** The bolts of a step that is known here, and how they look after an answer. */
  private about(step: string, payload: Record<string, unknown>): Pick<Waiting, 'places' | 'leaves'> {
    const now = this.step;
    const places = now?.step === step ? now.places : (now?.ahead.find((a) => a.step === step)?.places ?? []);
    return { places, leaves: now?.buttons.find((b) => b.answer === payload.answer)?.leaves };
  }

  /** What the server says this person may do here: some of it on the device that holds the run alone. */
  may(action: string): boolean {
    const { actions = [], held = [] } = this.state ?? {};
    return actions.includes(action) && !(this.lost && held.includes(action));
  }

  /** Send what waits, one batch at a time; on failure it keeps waiting and is tried again. */
  async flush(): Promise<void> {
    while (this.sending) await this.sending;
    clearTimeout(this.retry);
    const events = (await waiting(this.id)).slice(0, 100);
    if (!events.length) {
      this.unsent = [];
      return;
    }
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
      this.said = this.offline ? '' : sentence(error);
      this.again();
      return;
    }
    this.offline = false;
    for (const [i, answer] of data.answers.entries()) {
      if (answer.verdict !== 'gap') await answered(events[i]!);
      if (['refused', 'conflict', 'gap'].includes(answer.verdict)) this.said = answer.text;
      if (answer.code === 'lease_lost') this.lost = true;
    }
    this.unsent = await waiting(this.id);
    this.state = data.state;
    if (this.view) void keepRun(this.id, $state.snapshot({ ...this.view, state: data.state }));
    if (this.unsent.length) this.again(20);
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
        if (!this.offline) this.said = sentence(error);
        return false;
      } else {
        // its number in the row of events is taken: it stays as a note that says why there is no picture
        this.said = sentence(error);
        event.kind = 'note';
        event.payload = { text: `A photo taken here could not be kept. ${this.said}` };
      }
      await pictureDone(event);
    }
    return true;
  }

  close(): void {
    clearTimeout(this.retry);
  }
}
