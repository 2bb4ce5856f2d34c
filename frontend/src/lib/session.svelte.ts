/** Who is signed in. */
import { api, must, setCsrf, type Problem, type Schemas } from './api/client';

/** Who was last signed in on this device: shows a kept run without network. What is sent is still checked by the server. */
const KEPT = 'orthotorq-person';

class SessionState {
  person = $state<Schemas['PersonOut'] | null>(null);
  demo = $state<Schemas['DemoPerson'][]>([]);
  demoPassword = $state<string | null>(null);
  demoPin = $state<string | null>(null);
  /** The plant's own sign-on, by its name, and what it said when it failed. */
  signOn = $state<string | null>(null);
  said = $state('');
  ready = $state(false);
  /** True while the server has not been reached: the person is the one kept here. */
  unreached = $state(false);

  async load(): Promise<void> {
    const answer = await api.GET('/api/v1/session').catch(() => null);
    if (answer) return this.take(must(answer));
    const kept = localStorage.getItem(KEPT);
    if (!kept) throw new Error('The server cannot be reached, and nobody has signed in on this device before.');
    this.person = JSON.parse(kept) as Schemas['PersonOut'];
    this.unreached = this.ready = true;
  }

  /** Sign in; gives the problem back when there is one, so that its field is known. */
  async signIn(login: string, password: string, code: string): Promise<Problem | undefined> {
    const { data, error } = await api.POST('/api/v1/session', { body: { login, password, code } });
    if (data) this.take(data);
    return error as Problem | undefined;
  }

  /** Somebody else takes over this device. */
  async handOver(login: string, pin: string): Promise<void> {
    this.take(must(await api.POST('/api/v1/session/hand-over', { body: { login, pin } })));
  }

  async signOut(): Promise<void> {
    await api.DELETE('/api/v1/session');
    await this.load();
  }

  /** Whether the person may call a use case: the server said so. */
  may(useCase: string): boolean {
    return !!this.person?.may.includes(useCase);
  }

  private take(found: Schemas['SessionOut']): void {
    setCsrf(found.csrf);
    this.person = found.person ?? null;
    this.demo = found.demo;
    this.demoPassword = found.demo_password ?? null;
    this.demoPin = found.demo_pin ?? null;
    this.signOn = found.sign_on ?? null;
    this.said = found.said ?? '';
    this.ready = true;
    this.unreached = false;
    if (this.person) localStorage.setItem(KEPT, JSON.stringify(this.person));
    else localStorage.removeItem(KEPT);
  }
}

export const session = new SessionState();
