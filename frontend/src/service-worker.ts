/// <reference lib="webworker" />
/**
 * Keeps the shell, so that a run opens without network. What the API says is never kept here: the
 * outbox does that.
 */
import { version } from '$app/env';
import { assets, immutable } from '$app/manifest';
import { self } from '$app/service-worker';

const CACHE = `orthotorq-${version}`;
const SHELL = ['/', ...[...immutable, ...assets].map(({ path }) => `/${path.replace(/^\//, '')}`)];

/** Keep one file; one answer that is lost on a poor network must not cost the whole shell. */
async function keep(cache: Cache, path: string, tries = 4): Promise<void> {
  try {
    await cache.add(path);
  } catch (problem) {
    if (tries <= 1) throw problem;
    await new Promise((resolve) => setTimeout(resolve, 1000));
    await keep(cache, path, tries - 1);
  }
}

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(CACHE)
      .then((cache) => Promise.all(SHELL.map((path) => keep(cache, path))))
      .then(() => self.skipWaiting()),
  );
});

self.addEventListener('activate', (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) =>
        Promise.all(names.filter((name) => name !== CACHE).map((name) => caches.delete(name))),
      )
      .then(() => self.clients.claim()),
  );
});

async function page(request: Request): Promise<Response> {
  try {
    return await fetch(request);
  } catch {
    const kept = await caches.match('/');
    return kept ?? Response.error();
  }
}

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (
    request.method !== 'GET' ||
    url.origin !== self.location.origin ||
    url.pathname.startsWith('/api/') ||
    url.pathname === '/health'
  )
    return;
  if (request.mode === 'navigate') event.respondWith(page(request));
  else event.respondWith(caches.match(request).then((kept) => kept ?? fetch(request)));
});
