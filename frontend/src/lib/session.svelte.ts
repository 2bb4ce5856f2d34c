/** Who is signed in. */
import { placeZone } from './figures';
import { api, must, setCsrf, whenSignedOut, type Problem, type Schemas } from './api/client';

/**
 * Who was last signed in on this device: shows a kept run without network. What is sent is still
 * checked by the server.
 */
const KEPT = 'orthotorq-person';

class SessionState {
  person = $state<Schemas['PersonOut'] | null>(null);
  demo = $state<Schemas['DemoPerson'][]>([]);
  demoPassword = $state<string | null>(null);
  demoPin = $state<string | null>(null);
  /** The plant's own sign-on, by its name, and what it said when it failed. */
  signOn = $state<string | null>(null);
  said = $state('');
  /** The time zone of the place, as it is said in a sentence. */
  place = $state('');
  ready = $state(false);
  /** Whose session here asks for the PIN again: what is on the screen stays behind the question. */
  locked = $state<Schemas['Locked'] | null>(null);
  /**
   * Whether there is a password here, and whether the plant's sign-on has just asked the person
   * anew.
   */
  hasPassword = $state(true);
  fresh = $state(false);
  /** True while the server has not been reached: the person is the one kept here. */
  unreached = $state(false);

  async load(): Promise<void> {
    const answer = await api.GET('/api/v1/session').catch(() => null);
    if (answer) return this.take(must(answer));
    const kept = localStorage.getItem(KEPT);
    if (!kept)
      throw new Error(
        'The server cannot be reached, and nobody has signed in on this device before.',
      );
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

  /** Sign out, here and where the plant's sign-on let the person in. */
  async signOut(): Promise<void> {
    const { leave } = must(await api.DELETE('/api/v1/session'));
    if (leave) location.assign(leave);
    else await this.load();
  }

  /** Whether the person may call a use case: the server said so. */
  may(useCase: string): boolean {
    return !!this.person?.may.includes(useCase);
  }

  private take(found: Schemas['SessionOut']): void {
    setCsrf(found.csrf);
    this.locked = found.locked ?? null;
    this.hasPassword = found.has_password;
    this.fresh = found.fresh;
    // behind a lock the screen stays as it was
    if (!this.locked) this.person = found.person ?? null;
    this.demo = found.demo;
    this.demoPassword = found.demo_password ?? null;
    this.demoPin = found.demo_pin ?? null;
    this.signOn = found.sign_on ?? null;
    this.said = found.said ?? '';
    this.place = placeZone(found.time_zone);
    this.ready = true;
    this.unreached = false;
    if (this.locked) return;
    if (this.person) localStorage.setItem(KEPT, JSON.stringify(this.person));
    else localStorage.removeItem(KEPT);
  }
}

export const session = new SessionState();
whenSignedOut(() => void session.load().catch(() => undefined));
