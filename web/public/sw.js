// Lets a taster's sheet be reloaded while the network is gone (https or localhost only, as browsers allow it).
// The page and its hashed files come from here when the network does not answer; the API is never cached.
const KEPT = 'penny-sheet';

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
self.addEventListener('message', (event) => event.waitUntil(keep(event.data)));

async function keep(urls) {
  const wanted = urls.map((url) => new URL(url, self.location.origin).href);
  const entry = wanted.find((url) => url.includes('/assets/taster-') && url.endsWith('.js'));
  if (entry && !(await caches.match(entry))) await caches.delete(KEPT); // another build: its files have other names
  await (await caches.open(KEPT)).addAll(wanted);
}

self.addEventListener('fetch', (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== 'GET' || url.origin !== self.location.origin || url.pathname.startsWith('/api/')) return;
  event.respondWith(event.request.mode === 'navigate' ? page(event.request) : file(event.request));
});

async function page(request) {
  return fetch(request).catch(async () => (await caches.match('/taster.html')) ?? Response.error());
}

/** A hashed file never changes, so what is kept is right; what is not yet is kept as it is fetched (fonts come late). */
async function file(request) {
  const kept = await caches.match(request);
  if (kept) return kept;
  const fetched = await fetch(request).catch(() => Response.error());
  if (fetched.ok && new URL(request.url).pathname.startsWith('/assets/')) (await caches.open(KEPT)).put(request, fetched.clone());
  return fetched;
}
