// The service worker: keeps the pages that students use on their device, so that Haplon opens without a network and
// can be installed, and what a page of staff needed once it was opened, so that the desk goes on where there is none.
// Answers of the API are never kept: they are people's names and seats.
// FILES and VERSION are filled in when the pages are built (scripts/lib/offlineShell.mjs).
const FILES = __FILES__
const CACHE = 'haplon-__VERSION__'

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(CACHE)
      .then((cache) => cache.addAll(['/', ...FILES]))
      .then(() => self.skipWaiting()),
  )
})

self.addEventListener('activate', (event) => {
  const dropOld = caches
    .keys()
    .then((names) => Promise.all(names.filter((name) => name !== CACHE).map((name) => caches.delete(name))))
  event.waitUntil(dropOld.then(() => self.clients.claim()))
})

self.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  if (request.method !== 'GET' || url.origin !== location.origin || url.pathname.startsWith('/api/')) return
  if (request.mode === 'navigate') {
    // Always the newest page; the kept one only where there is no network.
    event.respondWith(fetch(request).catch(() => caches.match('/')))
  } else if (url.pathname.startsWith('/assets/')) {
    event.respondWith(caches.match(request).then((kept) => kept ?? fetched(request)))
  }
})

/** Files of a build carry a fingerprint in their names, so one that was fetched once is right until the next build. */
async function fetched(request) {
  const answer = await fetch(request)
  if (answer.ok) {
    const cache = await caches.open(CACHE)
    await cache.put(request, answer.clone())
  }
  return answer
}
