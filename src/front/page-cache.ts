/**
 * Pages as they were last drawn, answered again until what they show has changed: a page is drawn once a change, not once a visitor. Each
 * answer carries a nonce of its own all the same: a page is drawn with a mark in the nonce's place.
 */
import type { IncomingHttpHeaders, OutgoingHttpHeaders, RequestListener } from 'node:http'
import inject from 'light-my-request'
import limit from 'p-limit'
import { pendingChanges, versionOf } from '../server/changed'
import { today } from '../server/today'
import { NONCE, policy } from './guard'
import type { Middleware } from './in-order'

/** Stands in a page that could not be made as it should: nobody else gets it. */
export const UNKEPT = 'data-unkept'
const MOST_PAGES = 64
/** Pages drawn side by side would all be ready as late as the last of them; one that waits for its analysis holds up no other. */
const MOST_AT_ONCE = 3
/** Headers of a drawn page that are its own; the others are the connection's, or set for each answer. */
const OWN_HEADERS = ['content-type', 'cache-control', 'vary'] as const

type Page = { readonly status: number; readonly headers: OutgoingHttpHeaders; readonly body: string }
/** A page that is being drawn or was, and how the builds stood that it shows when that began; undefined until it has. */
type PageRendering = { version: string | undefined; readonly page: Promise<Page> }

const STATIONS = 'engine|circuit|bay|parts|fit|log|compare'
const UUID = String.raw`[\da-f]{8}(?:-[\da-f]{4}){3}-[\da-f]{12}`
const OF_BUILD = new RegExp(`^/builds/(${UUID})/(?:${STATIONS})$`)
/** Pages that show all builds, or none. */
const OTHERS = new Set(['/', '/new', '/reference', '/help'])

/**
 * What a page shows: a build, or everything, and the address it is drawn for. Of a build that is its path alone: what stands behind it is
 * for the browser. Undefined for what is no page that is kept, which is drawn for whoever asks: any other address,
 * and any other spelling of one.
 */
export function renderedVersions(
  url: string,
): { readonly build: string | undefined; readonly url: string } | undefined {
  const path = url.split('?')[0]!
  if (OTHERS.has(path)) return { build: undefined, url }
  const build = OF_BUILD.exec(path)?.[1]
  return build === undefined ? undefined : { build, url: path }
}

/** Requests for a whole page; what a browser asks for within one is not kept. */
const asksForPage = (method: string | undefined, { rsc, range }: IncomingHttpHeaders) =>
  method === 'GET' && rsc === undefined && range === undefined

/** Keeps the pages that `draw` answers with. */
export function pageCache(draw: RequestListener): Middleware {
  const drawings = new Map<string, PageRendering>()
  /** where the nonce goes: nothing that is typed can be the same */
  const mark = btoa(crypto.randomUUID())

  const inTurn = limit(MOST_AT_ONCE)

  async function drawn(url: string, host: string): Promise<Page> {
    const { statusCode, headers, payload } = await inject(draw, {
      method: 'GET',
      url,
      headers: { host, accept: 'text/html', [NONCE]: mark, 'content-security-policy': policy(mark, false) },
    })
    return {
      status: statusCode,
      headers: Object.fromEntries(OWN_HEADERS.flatMap((name) => (headers[name] ? [[name, headers[name]]] : []))),
      body: payload,
    }
  }

  /** The page as of now, or as of a moment in which what it shows was the same. */
  function page(key: string, build: string | undefined, make: () => Promise<Page>): Promise<Page> {
    const known = drawings.get(key)
    drawings.delete(key)
    if (known && (known.version === undefined || known.version === versionOf(build))) {
      // the last asked for is the last to go
      drawings.set(key, known)
      return known.page
    }
    const fresh: PageRendering = {
      version: undefined,
      page: inTurn(() => {
        fresh.version = versionOf(build)
        return make()
      }),
    }
    drawings.set(key, fresh)
    for (const old of [...drawings.keys()].slice(0, Math.max(0, drawings.size - MOST_PAGES))) drawings.delete(old)
    const forget = () => {
      if (drawings.get(key) === fresh) drawings.delete(key)
    }
    fresh.page.then(({ status, body }) => {
      if (status !== 200 || body.includes(UNKEPT)) forget()
    }, forget)
    return fresh.page
  }

  return (request, response, next) => {
    const { method, url = '', headers } = request
    const shown = renderedVersions(url)
    if (!shown || !asksForPage(method, headers)) return next()
    const { host = '' } = headers
    const answer = async () => {
      // what was sent before this page was asked for is in it
      await pendingChanges(shown.build)
      const {
        status,
        headers: own,
        body,
      } = await page(`${today()} ${host} ${shown.url}`, shown.build, () => drawn(shown.url, host))
      const text = body.replaceAll(mark, String(headers[NONCE]))
      response.writeHead(status, { ...own, 'content-length': Buffer.byteLength(text) }).end(text)
    }
    answer().catch(() => {
      if (!response.headersSent) response.writeHead(500, { 'content-type': 'text/plain' })
      response.end('Ivent could not draw this page. Nothing was changed. Try again.')
    })
  }
}
