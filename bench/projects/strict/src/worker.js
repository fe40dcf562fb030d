addEventListener('install', () => self.skipWaiting());
addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
addEventListener('fetch', (event) => {
  if (/\.js$/.test(new URL(event.request.url).pathname)) event.respondWith(fromCache(event.request));
});

async function fromCache(request) {
  const cache = await caches.open('deck');
  const kept = await cache.match(request);
  if (kept !== undefined) return kept;
  const answer = await fetch(request);
  await cache.put(request, answer.clone());
  return answer;
}
