/** The tables of names and forms, asked for once and kept for every screen. */
import { api, type Schemas } from './api/client';
import { Asked } from './asked.svelte';

class Catalogue extends Asked<Schemas['TablesOut']> {
  /** Ask once; a call that failed is asked again by the next screen. */
  need(): void {
    if (!this.value && !this.busy) void this.ask(() => api.GET('/api/v1/tables'));
  }
}

export const catalogue = new Catalogue();
