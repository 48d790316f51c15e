/**
 * By which names Ivent may be asked, and what every answer carries: a page elsewhere must not reach it through the browser (DNS rebinding,
 * cross-site requests, frames), and no script runs that did not come with the page. The same for this machine and for the local network.
 */
import type { IncomingMessage } from 'node:http'
import type { Middleware } from './in-order'

const LOCAL = ['127.0.0.1', 'localhost', '[::1]']
const METHODS = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE'])
const hostname = (host: string) => host.replace(/:\d+$/, '')

/** Names that Ivent answers to, the protocol that it speaks, and proxies whose word on that it takes. */
export type Allowed = {
  readonly hosts: readonly string[]
  readonly protocol: 'http' | 'https'
  /** addresses of proxies that speak TLS in front of Ivent: they say with which protocol they were asked */
  readonly proxies: readonly string[]
}
const listed = (text: string | undefined) => (text ?? '').split(',').flatMap((x) => (x.trim() ? [x.trim()] : []))
/** Of this machine alone: its own names, and what the workshop has set. */
export const allowedBy = (env: Readonly<Record<string, string | undefined>>): Allowed => ({
  hosts: [...LOCAL, ...listed(env.IVENT_HOSTS)],
  protocol: 'http',
  proxies: listed(env.IVENT_PROXIES),
})

/** An IPv4 address may come as an IPv6 one: ::ffff:127.0.0.1. */
const plainAddress = (address: string | undefined) => (address ?? '').replace(/^::ffff:/, '')

/** What a decision is made from. */
export type Asking = Pick<IncomingMessage, 'method' | 'url' | 'headers'> & {
  readonly socket: { readonly remoteAddress?: string | undefined }
}

/** The protocol that the browser speaks: a proxy that Ivent was told of says so, nobody else. */
function protocolOf({ headers, socket }: Asking, { proxies, protocol }: Allowed): string {
  const forwarded = headers['x-forwarded-proto']
  if (typeof forwarded !== 'string' || !proxies.includes(plainAddress(socket.remoteAddress))) return protocol
  return forwarded.split(',')[0]!.trim()
}

export type RequestRefusal = { readonly status: number; readonly error: string }

/**
 * Why a request is not answered; undefined where it is.
 * @example refusalOf({ method: 'GET', url: '/', headers: { host: 'elsewhere' }, socket: {} }, allowedBy({}))?.status // 421
 */
export function refusalOf(asking: Asking, allowed: Allowed): RequestRefusal | undefined {
  const { method = '', url = '', headers } = asking
  const host = headers.host ?? ''
  if (!allowed.hosts.includes(hostname(host).toLowerCase()))
    return { status: 421, error: 'Ivent does not answer to this name.' }
  if (!METHODS.has(method)) return { status: 405, error: `${method} is not a thing to ask of Ivent.` }
  try {
    decodeURIComponent(url.split('?')[0]!)
  } catch {
    return { status: 400, error: 'This address cannot be read: a % in it stands for no character.' }
  }
  if (method === 'GET' || method === 'HEAD') return undefined
  const { origin, 'sec-fetch-site': site } = headers
  const elsewhere =
    origin === undefined
      ? site !== undefined && site !== 'same-origin' && site !== 'none'
      : origin !== `${protocolOf(asking, allowed)}://${host}`
  return elsewhere ? { status: 403, error: 'A page elsewhere may not change anything here.' } : undefined
}

/** Refuses who may not ask; what is allowed may change with the machine's addresses. */
export const guard =
  (allowed: () => Allowed): Middleware =>
  (request, response, next) => {
    const no = refusalOf(request, allowed())
    if (!no) return next()
    response.writeHead(no.status, { 'content-type': 'application/json', connection: 'close' })
    response.end(JSON.stringify({ error: no.error }))
  }

/** Scripts by nonce alone; what they load counts as theirs. Styles may stand inline, since pictures place things with them. */
export function policy(nonce: string, development: boolean): string {
  // a development server evaluates what it compiles
  const evaluates = development ? " 'unsafe-eval'" : ''
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${evaluates}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ')
}
const FIXED: Readonly<Record<string, string>> = {
  'x-content-type-options': 'nosniff',
  'x-frame-options': 'DENY',
  'referrer-policy': 'no-referrer',
  'permissions-policy': 'camera=(self), microphone=(), geolocation=(), payment=(), usb=()',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
}

/** The header under which a page is told the nonce that its scripts bear. Next looks for it in the policy, the layout here. */
export const NONCE = 'x-nonce'

/** What every answer carries; each request gets a nonce of its own, whatever it claims to have. */
export const headers =
  (development: boolean): Middleware =>
  (request, response, next) => {
    const nonce = btoa(crypto.randomUUID())
    request.headers[NONCE] = nonce
    request.headers['content-security-policy'] = policy(nonce, development)
    for (const [name, value] of Object.entries(FIXED)) response.setHeader(name, value)
    response.setHeader('content-security-policy', policy(nonce, development))
    next()
  }
