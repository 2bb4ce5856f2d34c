/** The API client: typed paths, the CSRF token, problem details as a sentence. */
import createClient, { type Middleware } from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];

let csrf = '';

/** Remember the token that the session endpoint gave. */
export function setCsrf(token: string): void {
  csrf = token;
}

const token: Middleware = {
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', csrf);
    return request;
  },
};

export const api = createClient<paths>({ baseUrl: '/' });
api.use(token);

/** What a person should read about a failed call. */
export function sentence(error: unknown): string {
  const problem = error as Partial<Problem> | undefined;
  return problem?.detail ?? 'The server did not answer. Nothing was changed; try again.';
}

/** The data of an answer, or an Error with the sentence to show. */
export function must<T>(answer: { data?: T; error?: unknown }): T {
  if (answer.data === undefined) throw new Error(sentence(answer.error));
  return answer.data;
}
