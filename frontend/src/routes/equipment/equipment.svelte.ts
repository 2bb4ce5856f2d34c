/** The list of machines: found at the server, page by page, and what is registered on it. */
import { goto } from '$app/navigation';
import { api, type Schemas } from '#lib/api/client.ts';
import { Asked } from '#lib/asked.svelte.ts';

/** Which form is open: a new machine, a change of one, or a new joint of one. */
export type Form = { what: 'machine' | 'change' | 'joint' | 'site'; id: string } | null;

export class EquipmentList {
  items = $state<Schemas['EquipmentView'][] | null>(null);
  next = $state<string | null>(null);
  sought = $state(new URLSearchParams(location.search).get('find') ?? '');
  form = $state<Form>(null);
  sites = $state<Schemas['SiteView'][]>([]);
  /** The site that is looked at; empty for all. */
  site = $state(new URLSearchParams(location.search).get('site') ?? '');
  readonly page = new Asked<Schemas['EquipmentList']>();
  private waiting: ReturnType<typeof setTimeout> | undefined;

  async load(after = ''): Promise<void> {
    const query = { find: this.sought, after, site: this.site || undefined };
    const [page, sites] = await Promise.all([
      this.page.ask(() => api.GET('/api/v1/equipment', { params: { query } })),
      after ? null : api.GET('/api/v1/sites').catch(() => null),
    ]);
    this.sites = sites?.data?.items ?? this.sites;
    if (!page) return;
    this.items = after ? [...(this.items ?? []), ...page.items] : page.items;
    this.next = page.next ?? null;
  }

  /** Look at one site, or at all of them. */
  at(site: string): void {
    this.site = site;
    this.form = null;
    void this.load();
  }

  seek(text: string): void {
    this.sought = text;
    clearTimeout(this.waiting);
    this.waiting = setTimeout(() => void this.load(), 200);
  }

  /** Keep a machine as typed; gives the problem back when there is one. */
  keepMachine = async (texts: Record<string, string>, headers = {}): Promise<unknown> => {
    const body = {
      tag: texts.tag ?? '',
      name: texts.name ?? '',
      area: texts.area ?? '',
      site: texts.site ?? '',
    };
    const { what, id } = this.form!;
    const { error } =
      what === 'machine'
        ? await api.POST('/api/v1/equipment', { body, headers })
        : await api.PUT('/api/v1/equipment/{id}', { params: { path: { id } }, body, headers });
    if (error) return error;
    if (what === 'machine') this.sought = body.tag.trim();
    this.form = null;
    await this.load();
  };

  /** Call the site that is looked at otherwise. */
  keepSite = async (texts: Record<string, string>): Promise<unknown> => {
    const put = { params: { path: { id: this.site } }, body: { site: texts.site ?? '' } };
    const { error } = await api.PUT('/api/v1/sites/{id}', put);
    if (error) return error;
    this.form = null;
    await this.load();
  };

  keepJoint = async (texts: Record<string, string>, headers = {}): Promise<unknown> => {
    const body = {
      equipment: this.form!.id,
      tag: texts.tag ?? '',
      name: texts.name ?? '',
      kind: texts.kind ?? '',
    };
    const { data, error } = await api.POST('/api/v1/joints', { body, headers });
    if (!data) return error;
    await goto(`/joints/${data.id}`);
  };
}
