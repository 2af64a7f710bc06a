/// <reference lib="webworker" />
import { ExpirationPlugin, NetworkFirst, NetworkOnly, type PrecacheEntry, Serwist, type SerwistPlugin } from 'serwist'
import { settleSignOut } from '../device/owed'

declare const self: ServiceWorkerGlobalScope & { readonly __SW_MANIFEST: (PrecacheEntry | string)[] }

/** What stands for a page when the house does not answer. */
const SHELL = '/shell'
/** So long the house is waited for before the device shows what it has, s. */
const PATIENCE = 4

/** A worker's script out of the cache loses the part of its address behind the #, in which the bundler says what it starts with. */
const wholeAddress: SerwistPlugin = {
  handlerWillRespond: async ({ request, response }) =>
    request.destination === 'worker' || request.destination === 'sharedworker'
      ? new Response(response.body, { status: response.status, headers: response.headers })
      : response,
}

const serwist = new Serwist({
  precacheEntries: self.__SW_MANIFEST,
  precacheOptions: { cleanupOutdatedCaches: true, ignoreURLParametersMatching: [/.*/], plugins: [wholeAddress] },
  // A new version waits until the page says that nothing is half typed.
  skipWaiting: false,
  clientsClaim: true,
  navigationPreload: false,
  runtimeCaching: [
    {
      // A photo never changes, but who may see it does: the house is asked where it answers.
      matcher: ({ url, sameOrigin, request }) => sameOrigin && request.method === 'GET' && /^\/api\/walls\/[^/]+\/photos\/[^/]+$/.test(url.pathname),
      handler: new NetworkFirst({
        cacheName: 'photos',
        networkTimeoutSeconds: PATIENCE,
        plugins: [new ExpirationPlugin({ maxEntries: 300, purgeOnQuotaError: true })],
      }),
    },
    {
      // The page of the house where it answers as itself; the shell of the device where nobody does, or something else.
      matcher: ({ request, sameOrigin }) => sameOrigin && request.mode === 'navigate',
      handler: async ({ request, event }) => {
        try {
          // Signed out where the house could not hear it: it is told before it shows anything.
          if (!(await settleSignOut())) throw new Error('the house was not told')
          const response = await new NetworkOnly({ networkTimeoutSeconds: PATIENCE }).handle({ request, event })
          // A page of the house says so. Anything else that answers every question stands between us and it; a redirect it follows itself.
          if (response.type === 'opaqueredirect' || (response.status < 500 && response.headers.has('x-house'))) return response
        } catch {
          // nobody answers
        }
        return (await serwist.matchPrecache(SHELL)) ?? Response.error()
      },
    },
  ],
})
self.addEventListener('message', (event) => {
  if ((event.data as { type?: string } | null)?.type === 'SKIP_WAITING') self.skipWaiting()
})
serwist.addEventListeners()
