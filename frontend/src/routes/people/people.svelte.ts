/** Who works here, for the administrator: invitations, roles, who is out of action. */
import { api, type Schemas } from '#lib/api/client.ts';
import { Asked } from '#lib/asked.svelte.ts';

type Line = Schemas['PersonLine'];

export class People {
  readonly list = new Asked<Schemas['PeopleList']>();
  private readonly done = new Asked<unknown>();
  /** The link that was just made, with whom it is for; shown once. */
  made = $state<{ link: string; until: string; name: string } | null>(null);
  /** Who is being changed; `new` while somebody is invited. */
  open = $state('');

  get failed(): string {
    return this.list.failed || this.done.failed;
  }

  load = () => this.list.ask(() => api.GET('/api/v1/people'));

  /** Invite somebody; gives the problem back when there is one. */
  invite = async (texts: { login: string; name: string; roles: string[] }): Promise<unknown> => {
    const { data, error } = await api.POST('/api/v1/people', { body: texts });
    if (!data) return error;
    this.made = { ...data, name: texts.name };
    this.open = '';
    await this.load();
  };

  /** Change somebody; gives the problem back when there is one. */
  change = async (
    id: string,
    body: { name: string; roles: string[]; active: boolean },
  ): Promise<unknown> => {
    const { error } = await api.PUT('/api/v1/people/{id}', { params: { path: { id } }, body });
    if (error) return error;
    this.open = '';
    await this.load();
  };

  /** A new link for somebody who cannot sign in. */
  async link(person: Line): Promise<void> {
    const made = await this.done.ask(() =>
      api.POST('/api/v1/people/{id}/link', { params: { path: { id: person.id } } }),
    );
    this.open = '';
    if (made) this.made = { ...(made as Schemas['InvitationLink']), name: person.name };
    await this.load();
  }
}
