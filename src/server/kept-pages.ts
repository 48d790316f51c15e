/**
 * Pages as they were last made, kept until anything is asked to change: a page is drawn once a change, not once a visitor. Each answer
 * carries a nonce of its own all the same.
 */
import type { IncomingMessage, ServerResponse } from 'node:http'
import { today } from './today'

/** A page in pieces, between which its nonce stands. */
type Page = {
  readonly pieces: readonly Buffer[]
  readonly headers: readonly (readonly [name: string, value: string])[]
}

const pages = new Map<string, Page>()
const MOST_PAGES = 64
/** Rises whenever something may have changed: a page that was begun before is not kept. */
let age = 0

/** What stands in a page that could not be made as it should: nobody else gets it. */
export const UNKEPT = 'data-unkept'

/** Whatever was kept may be out of date. */
export function forgetPages(): void {
  age++
  pages.clear()
}

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS'])
const CSP = 'content-security-policy'
const NONCE = /'nonce-([^']+)'/

/**
 * Under what a page is kept; undefined for what is no whole page. The host belongs to it: only where a host was answered is it answered again.
 */
function keyOf({ method, url, headers }: IncomingMessage): string | undefined {
  if (method !== 'GET' || url === undefined || headers.rsc !== undefined || headers.range !== undefined)
    return undefined
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

function keep(key: string, response: ServerResponse, chunks: readonly Buffer[]): void {
  const nonce = NONCE.exec(String(response.getHeader(CSP) ?? ''))?.[1]
  const html = String(response.getHeader('content-type') ?? '').startsWith('text/html')
  if (response.statusCode !== 200 || nonce === undefined || !html) return
  const text = Buffer.concat(chunks).toString()
  if (text.includes(UNKEPT)) return
  pages.set(key, {
    pieces: text.split(nonce).map((piece) => Buffer.from(piece)),
    headers: Object.entries(response.getHeaders()).flatMap(([name, value]) =>
      OF_CONNECTION.has(name) || value === undefined ? [] : [[name, String(value)] as const],
    ),
  })
  for (const old of [...pages.keys()].slice(0, Math.max(0, pages.size - MOST_PAGES))) pages.delete(old)
}

/**
 * Answers with a page that is kept: true. Otherwise false, and what is answered is listened to, to be kept if it is a page, or to forget
 * what is kept if it is a change.
 */
export function answerKept(request: IncomingMessage, response: ServerResponse): boolean {
  if (!SAFE.has(request.method ?? '')) {
    forgetPages()
    response.once('close', forgetPages)
    return false
  }
  const key = keyOf(request)
  if (key === undefined) return false
  const known = pages.get(key)
  if (known) {
    // the last asked for is the last to go
    pages.delete(key)
    pages.set(key, known)
    answer(response, known)
    return true
  }
  // pages go no further than this machine or the workshop: plain, they can be kept and given another nonce
  delete request.headers['accept-encoding']
  const begun = age
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
  response.once('finish', () => {
    if (begun === age) keep(key, response, chunks)
  })
  return false
}
