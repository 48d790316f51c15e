/**
 * What every answer carries and what every request must be: Ivent answers this machine alone, a page elsewhere must not reach it through
 * the browser (DNS rebinding, cross-site requests, frames), and no script runs that did not come with the page.
 */
import { NextResponse, type NextRequest } from 'next/server'

const LOCAL = new Set(['127.0.0.1', 'localhost', '[::1]'])
const METHODS = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE'])
const hostname = (host: string) => host.replace(/:\d+$/, '')

/** Scripts by nonce alone; what they load counts as theirs. Styles may stand inline, since pictures place things with them. */
function policy(nonce: string): string {
  // a development server evaluates what it compiles
  const evaluates = process.env.NODE_ENV === 'development' ? " 'unsafe-eval'" : ''
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
function guarded(response: NextResponse, csp: string): NextResponse {
  response.headers.set('content-security-policy', csp)
  for (const [name, value] of Object.entries(FIXED)) response.headers.set(name, value)
  return response
}

/** Why a request is not answered, if it is not. */
function refusal(request: NextRequest): { status: number; error: string } | undefined {
  const host = request.headers.get('host') ?? ''
  const allowed = new Set([...LOCAL, ...(process.env.IVENT_HOSTS ?? '').split(',').filter(Boolean)])
  if (!allowed.has(hostname(host))) return { status: 421, error: 'Ivent answers only this machine.' }
  if (!METHODS.has(request.method)) return { status: 405, error: `${request.method} is not a thing to ask of Ivent.` }
  try {
    decodeURIComponent(request.nextUrl.pathname)
  } catch {
    return { status: 400, error: 'This address cannot be read: a % in it stands for no character.' }
  }
  if (request.method === 'GET' || request.method === 'HEAD') return undefined
  const origin = request.headers.get('origin')
  const site = request.headers.get('sec-fetch-site')
  const elsewhere =
    origin === null ? site !== null && site !== 'same-origin' && site !== 'none' : origin !== `http://${host}`
  return elsewhere ? { status: 403, error: 'A page elsewhere may not change anything here.' } : undefined
}

export function proxy(request: NextRequest): NextResponse {
  const nonce = btoa(crypto.randomUUID())
  const csp = policy(nonce)
  const no = refusal(request)
  if (no) return guarded(NextResponse.json({ error: no.error }, { status: no.status }), csp)
  // Next reads the nonce from here and puts it on its own scripts
  const headers = new Headers(request.headers)
  headers.set('x-nonce', nonce)
  headers.set('content-security-policy', csp)
  return guarded(NextResponse.next({ request: { headers } }), csp)
}

export const config = { matcher: ['/((?!_next/).*)'] }
