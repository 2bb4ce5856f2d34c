/**
 * A register read from a file: looked at, then taken, each as a job that is asked about until it
 * has ended.
 */
import { api, BACKGROUND, CONFIRMED, must, type Schemas } from '#lib/api/client.ts';

export class RegisterImport {
  job = $state.raw<Schemas['RegisterJob'] | null>(null);
  failed = $state('');
  private turn = 0;

  readonly going = $derived(this.job?.status === 'waiting' || this.job?.status === 'working');

  /** Let go of what is shown. */
  leave(): void {
    this.turn++;
    this.job = null;
    this.failed = '';
  }

  /** Look what a file would change. */
  async look(name: string, file: File): Promise<void> {
    this.leave();
    await this.follow(async () =>
      must(
        await api.POST('/api/v1/registers/{name}/looks', {
          params: { path: { name } },
          body: file as never,
          bodySerializer: (body: unknown) => body as never,
          headers: { 'Content-Type': 'application/octet-stream' },
        }),
      ),
    );
  }

  /** Import what was previewed; `confirmed` answers the questions of its rows. */
  async take(confirmed: boolean): Promise<void> {
    const id = this.job!.id;
    await this.follow(async () =>
      must(
        await api.POST('/api/v1/register-jobs/{id}/take', {
          params: { path: { id } },
          headers: confirmed ? CONFIRMED : {},
        }),
      ),
    );
  }

  /** Stop the job. */
  async stop(): Promise<void> {
    const id = this.job!.id;
    await api.POST('/api/v1/jobs/{id}/cancel', { params: { path: { id } } }).catch(() => undefined);
  }

  private async follow(begin: () => Promise<Schemas['Created']>): Promise<void> {
    const own = ++this.turn;
    this.failed = '';
    try {
      const { id } = await begin();
      do {
        const job = must(
          await api.GET('/api/v1/register-jobs/{id}', {
            params: { path: { id } },
            headers: BACKGROUND,
          }),
        );
        if (own !== this.turn) return;
        this.job = job;
        if (this.going) await new Promise((done) => setTimeout(done, 400));
      } while (this.going && own === this.turn);
    } catch (problem) {
      if (own === this.turn) this.failed = (problem as Error).message;
    }
  }
}
