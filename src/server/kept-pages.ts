/**
 * Pages as they were last made, kept until what they show is asked to change: a page is drawn once a change, not once a visitor, and who
 * asks while it is drawn waits for that. A page asked for while a change is under way comes after it. Each answer carries a nonce of its
 * own all the same.
 */
import type { IncomingMessage, ServerResponse } from 'node:http'
import { today } from './today'

/** A page in pieces, between which its nonce stands. */
type Page = {
  readonly url: string
  readonly pieces: readonly Buffer[]
  readonly headers: readonly (readonly [name: string, value: string])[]
}

const pages = new Map<string, Page>()
const MOST_PAGES = 64
/** Who waits for a page that is being drawn. */
const waiting = new Map<string, (() => void)[]>()
/** Changes under way: the build that they are to, if to one, and their end. */
const underWay = new Set<{ readonly build: string | undefined; readonly end: Promise<void> }>()
/** No page waits longer than this for a change that hangs. */
const PATIENCE_MS = 2000
/** Rises whenever something may have changed: a page that was begun before is not kept. */
let age = 0

/** What stands in a page that could not be made as it should: nobody else gets it. */
export const UNKEPT = 'data-unkept'

/** Whether a page shows a build; the garage shows all, and where none is told anything may be shown. */
const shows = (url: string, build: string | undefined) =>
  build === undefined || url === '/' || url.startsWith(`/builds/${build}`)

/** Whatever was kept may be out of date; where one build alone has changed, its own pages and the garage. */
export function forgetPages(build?: string): void {
  age++
  for (const [key, { url }] of pages) if (shows(url, build)) pages.delete(key)
}

/** Has a change made, and what it may have made old forgotten, before it is answered and after. */
function change(url: string, response: ServerResponse, make: () => void): void {
  const build = OF_BUILD.exec(url)?.[1]
  forgetPages(build)
  const end = new Promise<void>((resolve) => {
    response.once('close', resolve)
  })
  const going = { build, end }
  underWay.add(going)
  void end.then(() => {
    underWay.delete(going)
    forgetPages(build)
  })
  make()
}

/** The end of all changes under way to what a page shows; undefined where there are none. */
function changesTo(url: string): Promise<unknown> | undefined {
  const ends = [...underWay].flatMap((c) => (shows(url, c.build) ? [c.end] : []))
  if (ends.length === 0) return undefined
  const patience = new Promise((resolve) => {
    setTimeout(resolve, PATIENCE_MS).unref()
  })
  return Promise.race([Promise.all(ends), patience])
}

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS'])
const OF_BUILD = /^\/api\/builds\/([\w-]+)/
const CSP = 'content-security-policy'
const NONCE = /'nonce-([^']+)'/

/**
 * Under what a page is kept; undefined for what is no whole page. The host belongs to it: only where a host was answered is it answered again.
 */
function keyOf({ method, headers }: IncomingMessage, url: string): string | undefined {
  if (method !== 'GET' || headers.rsc !== undefined || headers.range !== undefined) return undefined
  if (url.startsWith('/api/') || url.startsWith('/_next/')) return undefined
  return [today(), headers.host, url].join(' ')
}

function answer(response: ServerResponse, { pieces, headers }: Page): void {
  const nonce = btoa(crypto.randomUUID())
  const body = Buffer.concat(pieces.flatMap((piece, i) => (i === 0 ? [piece] : [Buffer.from(nonce), piece])))
  for (const [name, value] of headers)
    response.setHeader(name, name === CSP ? value.replace(NONCE, `'nonce-${nonce}'`) : value)
  response.setHeader('content-length', body.length)
  response.end(body)
}

/** Of headers, those that are the connection's and not the page's. */
const OF_CONNECTION = new Set(['connection', 'keep-alive', 'transfer-encoding', 'content-length', 'date'])

/** What was answered as a page to keep; undefined where it is none, or not as it should be. */
function pageOf(url: string, response: ServerResponse, body: Buffer): Page | undefined {
  const nonce = NONCE.exec(String(response.getHeader(CSP) ?? ''))?.[1]
  const html = String(response.getHeader('content-type') ?? '').startsWith('text/html')
  const text = body.toString()
  if (response.statusCode !== 200 || nonce === undefined || !html || text.includes(UNKEPT)) return undefined
  const headers = Object.entries(response.getHeaders()).flatMap(([name, value]) =>
    OF_CONNECTION.has(name) || value === undefined ? [] : [[name, String(value)] as const],
  )
  return { url, pieces: text.split(nonce).map((piece) => Buffer.from(piece)), headers }
}

/** Collects what is written to an answer, which goes out all the same. */
function listenTo(response: ServerResponse): readonly Buffer[] {
  const chunks: Buffer[] = []
  const { write, end } = response
  const listen = (pass: typeof write | typeof end) =>
    function (this: ServerResponse, ...args: unknown[]): unknown {
      const [chunk] = args
      if (typeof chunk === 'string' || chunk instanceof Uint8Array) chunks.push(Buffer.from(chunk as string))
      return Reflect.apply(pass, this, args)
    }
  response.write = listen(write) as typeof write
  response.end = listen(end) as typeof end
  return chunks
}

/** A page that is asked for, under what it is kept, and how it is drawn. */
type Asked = {
  readonly key: string
  readonly url: string
  readonly request: IncomingMessage
  readonly response: ServerResponse
  readonly draw: () => void
}

/** Has a page drawn, keeps it if it is one, and lets those go on who waited for it. */
function drawKept({ key, url, request, response, draw }: Asked): void {
  // pages go no further than this machine or the workshop: plain, they can be kept and given another nonce
  delete request.headers['accept-encoding']
  const begun = age
  const chunks = listenTo(response)
  waiting.set(key, [])
  let whole = false
  response.once('finish', () => {
    whole = true
  })
  response.once('close', () => {
    const page = whole && begun === age ? pageOf(url, response, Buffer.concat(chunks)) : undefined
    if (page) pages.set(key, page)
    for (const old of [...pages.keys()].slice(0, Math.max(0, pages.size - MOST_PAGES))) pages.delete(old)
    const others = waiting.get(key) ?? []
    waiting.delete(key)
    for (const goOn of others) goOn()
  })
  draw()
}

/** Answers with a page: kept, as others are having it drawn, or drawn. */
function answerPage(asked: Asked): void {
  const { key, response } = asked
  if (response.destroyed) return
  const known = pages.get(key)
  const others = waiting.get(key)
  if (known) {
    // the last asked for is the last to go
    pages.delete(key)
    pages.set(key, known)
    answer(response, known)
  } else if (others) others.push(() => answerPage(asked))
  else drawKept(asked)
}

/**
 * Answers a request: with the page that is kept, or with what `draw` makes of it, which is kept if it is a page, and has pages forgotten if
 * it is a change.
 */
export function answerKept(request: IncomingMessage, response: ServerResponse, draw: () => void): void {
  const url = request.url ?? ''
  const key = keyOf(request, url)
  if (!SAFE.has(request.method ?? '')) change(url, response, draw)
  else if (key === undefined) draw()
  else {
    const go = () => answerPage({ key, url, request, response, draw })
    const changes = changesTo(url)
    if (changes) void changes.then(go)
    else go()
  }
}
