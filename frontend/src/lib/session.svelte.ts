/** Who is signed in. */
import { api, must, setCsrf, type Schemas } from './api/client';

class SessionState {
  person = $state<Schemas['PersonOut'] | null>(null);
  demo = $state<Schemas['DemoPerson'][]>([]);
  demoPassword = $state<string | null>(null);
  ready = $state(false);

  async load(): Promise<void> {
    this.take(must(await api.GET('/api/v1/session')));
  }

  async signIn(login: string, password: string): Promise<void> {
    this.take(must(await api.POST('/api/v1/session', { body: { login, password } })));
  }

  async signOut(): Promise<void> {
    await api.DELETE('/api/v1/session');
    await this.load();
  }

  has(...roles: string[]): boolean {
    return !!this.person && roles.some((role) => this.person!.roles.includes(role));
  }

  private take(found: Schemas['SessionOut']): void {
    setCsrf(found.csrf);
    this.person = found.person ?? null;
    this.demo = found.demo;
    this.demoPassword = found.demo_password ?? null;
    this.ready = true;
  }
}

export const session = new SessionState();
