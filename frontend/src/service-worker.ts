/// <reference lib="webworker" />
/** Keeps the shell, so that a run opens without network. What the API says is never kept here: the outbox does that. */
import { version } from '$app/env';
import { assets, immutable } from '$app/manifest';
import { self } from '$app/service-worker';

const CACHE = `orthotorq-${version}`;
const SHELL = ['/', ...[...immutable, ...assets].map(({ path }) => `/${path.replace(/^\//, '')}`)];

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(CACHE)
      .then((cache) => cache.addAll(SHELL))
      .then(() => self.skipWaiting()),
  );
});

self.addEventListener('activate', (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(names.filter((name) => name !== CACHE).map((name) => caches.delete(name))))
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
