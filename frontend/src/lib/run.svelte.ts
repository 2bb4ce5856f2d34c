/** A run on this device: taps go to the outbox first, then to the server; the server says what comes next. */
import { api, must, sentence, type Schemas } from './api/client';
import { deviceId } from './offline/device';
import { answered, put, waiting } from './offline/outbox';

type View = Schemas['RunView'];

export class Run {
  view = $state<View | null>(null);
  state = $state<Schemas['RunState'] | null>(null);
  /** What the server said to the last event when it did not simply accept it. */
  said = $state('');
  busy = $state(false);
  unsent = $state(0);
  offline = $state(false);
  lost = $state(false);
  private retry: ReturnType<typeof setTimeout> | undefined;

  constructor(readonly id: string) {}

  get mine(): boolean {
    return this.view?.lease_device === deviceId();
  }

  async open(): Promise<void> {
    const view = must(await api.GET('/api/v1/runs/{id}', { params: { path: { id: this.id } } }));
    this.view = view;
    this.state = view.state;
    this.lost = !this.mine;
    await this.flush();
  }

  async takeOver(): Promise<void> {
    const lease = must(
      await api.POST('/api/v1/runs/{id}/lease', { params: { path: { id: this.id } }, body: { device: deviceId() } }),
    );
    this.view = { ...this.view!, lease_epoch: lease.epoch, lease_device: deviceId() };
    this.lost = false;
    await this.open();
  }

  /**
   * Record one answer, note, correction or signature. A second answer while one is on its way is a double tap and dropped;
   * what was written or chosen in a dialog waits for its turn.
   */
  async send(kind: string, step: string, payload: Record<string, unknown>): Promise<void> {
    if (kind === 'answer' && this.busy) return;
    while (this.busy) await new Promise((done) => setTimeout(done, 30));
    if (!this.view || !this.state) return;
    this.busy = true;
    this.said = '';
    try {
      await put(this.id, step, kind, payload, this.view.lease_epoch, this.state.sequence);
      await this.flush();
    } finally {
      this.busy = false;
    }
  }

  /** Send what waits; on failure it keeps waiting and is tried again. */
  async flush(): Promise<void> {
    clearTimeout(this.retry);
    const events = (await waiting(this.id)).slice(0, 100);
    this.unsent = events.length;
    if (!events.length) return;
    const { data, error, response } = await api
      .POST('/api/v1/runs/{id}/events', {
        params: { path: { id: this.id } },
        body: { sent_at: new Date().toISOString(), events },
      })
      .catch(() => ({ data: undefined, error: undefined, response: undefined }));
    if (!data) {
      this.offline = !response || response.status >= 500;
      this.said = this.offline ? 'No connection. The tap is kept here and sent again.' : sentence(error);
      this.retry = setTimeout(() => void this.flush(), 2000);
      return;
    }
    this.offline = false;
    for (const [i, answer] of data.answers.entries()) {
      if (answer.verdict !== 'gap') await answered(events[i]!);
      if (['refused', 'conflict', 'gap'].includes(answer.verdict)) this.said = answer.text;
      if (answer.verdict === 'conflict' && answer.text.includes('taken this run over')) this.lost = true;
    }
    this.state = data.state;
    this.unsent = (await waiting(this.id)).length;
  }

  close(): void {
    clearTimeout(this.retry);
  }
}
