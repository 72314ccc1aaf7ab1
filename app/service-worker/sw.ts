/// <reference lib="webworker" />
import { clientsClaim } from 'workbox-core'
import { enable } from 'workbox-navigation-preload'
import { ExpirationPlugin } from 'workbox-expiration'
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import { CacheFirst, NetworkFirst } from 'workbox-strategies'
import { MOST_KEPT_PHOTOS, PHOTOS_KEPT } from './kept-photos'

// What the field needs opens without a server: its pages' own parts are kept whole, of one version.
// Pages come from the network while there is one; a new version waits until every page of the old one is closed.

declare const self: ServiceWorkerGlobalScope

/** A network that says nothing for so long is taken for none. */
const SILENCE_MS = 1500
/** Its head names what the cards need. */
const SHELL = '/field'
/** Parts beyond those that are kept from the start: what was opened once opens again. */
const OPENED = 'opened-parts'

enable()
cleanupOutdatedCaches()
precacheAndRoute(self.__WB_MANIFEST, { directoryIndex: '', cleanURLs: false, urlManipulation: () => [] })
registerRoute(({ url }) => url.pathname.startsWith('/_nuxt/'), new CacheFirst({ cacheName: OPENED }))
self.addEventListener('activate', (event) => event.waitUntil(caches.delete(OPENED)))
// Whoever may not see them any more is told so by the server, as long as it answers.
registerRoute(
  ({ url }) => /^\/api\/sites\/[^/]+\/photos\/[^/]+$/.test(url.pathname),
  new NetworkFirst({
    cacheName: PHOTOS_KEPT,
    networkTimeoutSeconds: 3,
    plugins: [new ExpirationPlugin({ maxEntries: MOST_KEPT_PHOTOS, purgeOnQuotaError: true })],
  }),
)
// At its first coming no page is any worker's yet: the one that is open is of this version.
clientsClaim()

const silence = (): Promise<undefined> =>
  new Promise((resolve) => setTimeout(() => resolve(undefined), SILENCE_MS))

registerRoute(
  new NavigationRoute(
    async ({ event, request }) => {
      const preloaded = (event as FetchEvent).preloadResponse as Promise<Response | undefined>
      const answer = preloaded.then((early) => early ?? fetch(request)).catch(() => undefined)
      const first = await Promise.race([answer, silence()])
      if (first) return first
      return (await matchPrecache(SHELL)) ?? (await answer) ?? Response.error()
    },
    { denylist: [/^\/api\//] },
  ),
)
