/* global self, caches, fetch, URL */
// Keeps the page itself on the device, so that it opens while the network is away. Nothing of the record is kept here:
// what the API answers goes past, and what is entered waits in the page's own store.
const shell = 'ojime-shell-1'

self.addEventListener('install', (event) => {
  event.waitUntil(caches.open(shell).then((cache) => cache.add('/')))
  self.skipWaiting()
})

self.addEventListener('activate', (event) => {
  event.waitUntil(self.clients.claim())
})

async function page(request) {
  const cache = await caches.open(shell)
  try {
    const fresh = await fetch(request)
    if (fresh.ok) await cache.put('/', fresh.clone())
    return fresh
  } catch (lost) {
    const kept = await cache.match('/')
    if (kept) return kept
    throw lost
  }
}

// Files named by their content never change: the first answer is the last.
async function asset(request) {
  const cache = await caches.open(shell)
  const kept = await cache.match(request)
  if (kept) return kept
  const fresh = await fetch(request)
  if (fresh.ok) await cache.put(request, fresh.clone())
  return fresh
}

self.addEventListener('fetch', (event) => {
  const { pathname, origin } = new URL(event.request.url)
  if (event.request.method !== 'GET' || origin !== self.location.origin || pathname.startsWith('/api/')) return
  if (event.request.mode === 'navigate') event.respondWith(page(event.request))
  else if (pathname.startsWith('/assets/')) event.respondWith(asset(event.request))
})
