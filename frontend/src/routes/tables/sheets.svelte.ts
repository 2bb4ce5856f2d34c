/** The shipped tables, the own entries, and what is looked for in them. */
import { replaceState } from '$app/navigation';
import { api, type Schemas } from '#lib/api/client.ts';
import { Asked } from '#lib/asked.svelte.ts';

export const OWN = 'own';
export const LESSONS = 'lessons';

export class Sheets {
  readonly list = new Asked<Schemas['SheetList']>();
  readonly own = new Asked<Schemas['OwnList']>();
  chosen = $state('');
  sought = $state('');

  constructor(query: Pick<URLSearchParams, 'get'>) {
    this.chosen = query.get('table') ?? '';
    this.sought = query.get('find') ?? '';
    void this.list
      .ask(() => api.GET('/api/v1/table-sheets'))
      .then((found) => (this.chosen ||= found?.items[0]?.id ?? ''));
    void this.load();
  }

  readonly sheet = $derived.by(() => this.list.value?.items.find((s) => s.id === this.chosen));
  readonly rows = $derived.by(() => (this.sheet ? this.matches(this.sheet) : []));

  load = () => this.own.ask(() => api.GET('/api/v1/own-entries'));

  /** Rows of a table in which what is looked for stands. */
  matches(sheet: Schemas['Sheet']): string[][] {
    const wanted = this.sought.trim().toLowerCase();
    return sheet.rows.filter((row) => row.join(' ').toLowerCase().includes(wanted));
  }

  /** The address of a table, with what is looked for. */
  address(table: string): string {
    return `/tables?${new URLSearchParams({ table, ...(this.sought ? { find: this.sought } : {}) })}`;
  }

  seek = (text: string): void => {
    this.sought = text;
    replaceState(this.address(this.chosen), {});
  };

  store = (lubricant: string, in_store: boolean) =>
    this.own.ask(() => api.POST('/api/v1/stock', { body: { lubricant, in_store } }));
}
