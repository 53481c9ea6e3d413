// The service worker: keeps the pages that students use on their device, so that Haplon opens without a network and
// can be installed. Answers of the API are never kept: they are people's names and seats.
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
    event.respondWith(caches.match(request).then((kept) => kept ?? fetch(request)))
  }
})
