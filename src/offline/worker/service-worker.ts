/**
 * Runs in the browser beside the pages: keeps the program and the pages last opened, and answers with them where the bench does not. Pages
 * come from the bench whenever it answers. `./ivent` bundles it and writes into it which files the build is made of.
 */
import {
  ExpirationPlugin,
  NavigationRoute,
  NetworkFirst,
  Serwist,
  type PrecacheEntry,
  type SerwistPlugin,
} from 'serwist'
import { keptMark, NO_PAGE, PAGES, pathKept, type KeepRequest, type KeepReply } from './pages-kept'

declare const self: ServiceWorkerGlobalScope
/** Written in when it is bundled: the files of the build, and its name. */
declare const BUILD_FILES: readonly string[]
declare const BUILD_ID: string

const PAGE_CACHE = `${PAGES}${BUILD_ID}`
/** Pages of the builds last opened, with the garage and the reference. */
const MOST_PAGES = 64
/** A bench that takes longer is as good as none: a page that was kept is shown. */
const PATIENCE_S = 5
/** A page that does not come over in this time is not kept: while it is waited for, no newer version can take over. */
const KEEP_PATIENCE_MS = 15_000
/** A kept page is had anew when it is older than this. */
const STALE_MS = 10 * 60_000

const isFull = (error: unknown) => error instanceof DOMException && error.name === 'QuotaExceededError'

/** What becomes of pages on their way into and out of the store. */
const kept: SerwistPlugin = {
  // what stands behind the path is the page's own matter
  cacheKeyWillBeUsed: ({ request }) => Promise.resolve(pathKept(request.url) ?? request.url),
  cacheWillUpdate: async ({ response }) =>
    response.status === 200 && !response.redirected && !(await response.clone().text()).includes('data-unkept')
      ? response
      : null,
  cachedResponseWillBeUsed: ({ cachedResponse }) =>
    Promise.resolve(cachedResponse ? keptMark(cachedResponse) : undefined),
}

const pages = new NetworkFirst({
  cacheName: PAGE_CACHE,
  networkTimeoutSeconds: PATIENCE_S,
  plugins: [kept, new ExpirationPlugin({ maxEntries: MOST_PAGES, maxAgeFrom: 'last-used', purgeOnQuotaError: false })],
})

const worker = new Serwist({
  precacheEntries: BUILD_FILES.map((url): PrecacheEntry => ({ url, revision: null })),
  // a page that is open goes on with the files that it came with; it says when to change over
  skipWaiting: false,
  clientsClaim: true,
  navigationPreload: false,
  disableDevLogs: true,
})
worker.registerRoute(
  new NavigationRoute(
    async (options) => {
      try {
        return await pages.handle(options)
      } catch {
        return new Response(NO_PAGE, { status: 503, headers: { 'content-type': 'text/html; charset=utf-8' } })
      }
    },
    { denylist: [/^\/api\//, /^\/pair/, /^\/_next\//] },
  ),
)

/** Has a page anew for the store, where it is not there or old. */
async function keepPage(path: string, cacheName: string): Promise<void> {
  const cache = await caches.open(cacheName)
  const there = await cache.match(path)
  if (there && Date.now() - Date.parse(there.headers.get('date') ?? '') < STALE_MS) return
  const response = await fetch(path, {
    headers: { accept: 'text/html' },
    credentials: 'same-origin',
    signal: AbortSignal.timeout(KEEP_PATIENCE_MS),
  })
  const text = await response.clone().text()
  if (response.status === 200 && !response.redirected && !text.includes('data-unkept')) await cache.put(path, response)
}

async function keep({ paths }: KeepRequest): Promise<KeepReply> {
  try {
    for (const path of paths)
      if (pathKept(new URL(path, self.location.origin).href) === path) await keepPage(path, PAGE_CACHE)
    return { kept: true }
  } catch (error) {
    return { kept: false, full: isFull(error) }
  }
}

/** What was kept for the version before is had anew for this one, before it takes over: a page asks for files by the names of its own build. */
async function bringOver(): Promise<void> {
  for (const name of await caches.keys()) {
    if (!name.startsWith(PAGES) || name === PAGE_CACHE) continue
    for (const { url } of await (await caches.open(name)).keys())
      await keepPage(new URL(url).pathname, PAGE_CACHE).catch(() => undefined)
  }
}
const dropOld = async () => {
  for (const name of await caches.keys()) if (name.startsWith(PAGES) && name !== PAGE_CACHE) await caches.delete(name)
}

/** What goes straight to the bench, past this worker; not every browser can, and TypeScript does not know it yet. */
type InstallEvent = ExtendableEvent & {
  readonly addRoutes?: (route: {
    readonly condition: { readonly urlPattern: string }
    readonly source: 'network'
  }) => Promise<void>
}
self.addEventListener('install', (event) => {
  // a worker that is to go goes when it has been at rest for half a minute. A page without a connection asks for it every few seconds: did
  // that come here, a newer version would wait for minutes
  const routed = (event as InstallEvent).addRoutes?.({ condition: { urlPattern: '/api/*' }, source: 'network' })
  event.waitUntil(Promise.all([bringOver(), routed]))
})
self.addEventListener('activate', (event) => event.waitUntil(dropOld()))
self.addEventListener('message', (event) => {
  const request = event.data as KeepRequest | { readonly type?: unknown } | undefined
  if (request?.type === 'keep')
    event.waitUntil(keep(request as KeepRequest).then((reply) => event.ports[0]?.postMessage(reply)))
})
/**
 * The script of a worker, with what stands behind `#` in its address: it is told there what to load, and a worker takes its address from the
 * answer. One that was kept or fetched has lost that part; one made here has no address of its own, and the asker's counts.
 */
async function workerScript(request: Request): Promise<Response> {
  const found = (await caches.match(request, { ignoreSearch: true })) ?? (await fetch(request))
  return new Response(found.body, { status: found.status, headers: found.headers })
}
self.addEventListener('fetch', (event) => {
  if (event.request.destination !== 'worker') return
  event.stopImmediatePropagation()
  event.respondWith(workerScript(event.request))
})
worker.addEventListeners()
