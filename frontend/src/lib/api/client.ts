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

/**
 * A call that hangs is given up, so that what waits behind it goes on; a file may take longer on
 * its way.
 */
const ANSWER_MS = 30_000;
const FILE_MS = 600_000;
const SILENT = 'No answer from the server. Check what was saved, then try again.';

const patience: Middleware = {
  onRequest({ request }) {
    const file =
      request.body !== null && !request.headers.get('Content-Type')?.startsWith('application/json');
    const signal = AbortSignal.any([
      request.signal,
      AbortSignal.timeout(file ? FILE_MS : ANSWER_MS),
    ]);
    return new Request(request, { signal });
  },
  onError: ({ error }) => new Error(SILENT, { cause: error }),
};

let onSignedOut: () => void = () => undefined;

/** What is done when the server no longer knows who asks: signed out elsewhere, or locked. */
export function whenSignedOut(act: () => void): void {
  onSignedOut = act;
}

const known: Middleware = {
  onResponse({ response, request }) {
    if (response.status === 401 && !request.url.includes('/api/v1/session')) onSignedOut();
  },
};

export const api = createClient<paths>({ baseUrl: '/' });
api.use(token, patience, known);

/** Header of what a screen asks by itself: it keeps no session awake. */
export const BACKGROUND = { 'X-Background': '1' };

/** What a person should read about a failed call. */
export function problemText(error: unknown): string {
  const problem = error as Partial<Problem> | undefined;
  return problem?.detail ?? SILENT;
}

/**
 * Header of a request that is sent again after the server has asked whether it is meant (409, code
 * `confirm`).
 */
export const CONFIRMED = { 'X-Confirmed': 'yes' };

/** The data of an answer, or an Error with the sentence to show. */
export function must<T>(answer: { data?: T; error?: unknown }): T {
  if (answer.data === undefined) throw new Error(problemText(answer.error));
  return answer.data;
}
