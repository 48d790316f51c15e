/**
 * Who is let in from the local network. A device that is not paired gets the pairing page and nothing else; one that is gets what its
 * rights allow, and who it is goes on to the application in a header that nobody outside can set.
 */
import type { IncomingMessage, ServerResponse } from 'node:http'
import { setTimeout as wait } from 'node:timers/promises'
import { ASKER, askerHeader, refusalForDevice, PUT_OUT, SESSION } from '../../server/asker'
import { addDevice, deviceWith, MOST_NAME, noteSeen, type Device } from '../../server/devices'
import { reopenOffer, tryCode } from '../../server/pairing'
import { reported } from '../../server/trouble'
import type { Middleware } from '../in-order'
import { NONCE } from '../guard'
import { pairPage, policyOf } from './pages'

const SESSION_COOKIE = '__Host-ivent'
/** What the page may read: the device's name and rights. It proves nothing. */
const DEVICE_COOKIE = 'ivent-device'
const PAIR = '/pair'
/** The longest that browsers keep a cookie, s. */
const KEPT_S = 400 * 24 * 3600
/** Longest body of a pairing request, bytes. */
const MOST_BYTES = 2000

const cookieIn = (request: IncomingMessage, name: string): string | undefined =>
  (request.headers.cookie ?? '')
    .split(/;\s*/)
    .find((c) => c.startsWith(`${name}=`))
    ?.slice(name.length + 1)

const sessionCookie = (token: string) =>
  `${SESSION_COOKIE}=${token}; Path=/; Secure; HttpOnly; SameSite=Strict; Max-Age=${KEPT_S}`
const deviceText = ({ name, rights }: Device) => encodeURIComponent(JSON.stringify({ name, rights }))
const deviceCookie = (device: Device) =>
  `${DEVICE_COOKIE}=${deviceText(device)}; Path=/; Secure; SameSite=Strict; Max-Age=${KEPT_S}`

function answer(response: ServerResponse, status: number, body: object): void {
  response.writeHead(status, { 'content-type': 'application/json', 'cache-control': 'no-store' })
  response.end(JSON.stringify(body))
}

/** A small body as JSON; undefined where it is too long or none. */
async function readBody(request: IncomingMessage): Promise<Readonly<Record<string, unknown>> | undefined> {
  if (!/^application\/json\b/i.test(request.headers['content-type'] ?? '')) return undefined
  let all = ''
  for await (const chunk of request) {
    all += String(chunk)
    if (all.length > MOST_BYTES) return undefined
  }
  try {
    const value: unknown = JSON.parse(all)
    return value !== null && typeof value === 'object' ? (value as Record<string, unknown>) : undefined
  } catch {
    return undefined
  }
}

/** Addresses whose code is being looked at: each has one at a time, however many it sends. */
const trying = new Set<string>()

async function pair(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const from = request.socket.remoteAddress ?? ''
  if (trying.has(from)) return answer(response, 429, { error: 'One try at a time. Wait for the answer to the last.' })
  trying.add(from)
  try {
    const body = await readBody(request)
    const { name, code } = body ?? {}
    const plain = typeof name === 'string' ? name.replaceAll(/\p{C}/gu, '').trim().slice(0, MOST_NAME) : ''
    if (typeof code !== 'string' || plain === '')
      return answer(response, 400, { error: 'Give the device a name, and type the words that the bench shows.' })
    const tried = tryCode(code, { name: plain, from })
    if (!tried.ok) {
      console.error(`Pairing: a wrong code from ${from}; ${tried.triesLeft} tries left.`)
      await wait(tried.waitMs)
      return answer(response, 403, { error: tried.reason, triesLeft: tried.triesLeft })
    }
    const added = await addDevice(plain, tried.rights).catch((error: unknown) => {
      // nobody came in by it: it stands as before
      reopenOffer()
      throw error
    })
    if (!added)
      return answer(response, 409, { error: 'A hundred devices are paired. Put out some at the bench first.' })
    console.error(`Pairing: ${JSON.stringify(plain)} from ${from} is let in.`)
    response.setHeader('set-cookie', [sessionCookie(added.token), deviceCookie(added.device)])
    answer(response, 200, { name: plain, rights: tried.rights })
  } finally {
    trying.delete(from)
  }
}

/** The pairing page; a device whose session has ended is told so, and forgets what was kept on it. */
function showPairing(request: IncomingMessage, response: ServerResponse, trust: string, wasOut: boolean): void {
  if (wasOut) response.setHeader('set-cookie', [`${DEVICE_COOKIE}=; Path=/; Secure; SameSite=Strict; Max-Age=0`])
  const nonce = String(request.headers[NONCE])
  response.writeHead(200, {
    'content-type': 'text/html; charset=utf-8',
    'cache-control': 'no-store',
    'content-security-policy': policyOf(`script-src 'nonce-${nonce}'; connect-src 'self'`),
  })
  response.end(pairPage({ nonce, wasOut, trust }))
}

/** The device whose session a request bears, and the session's token. */
export async function sessionOf(
  request: IncomingMessage,
): Promise<{ token: string | undefined; device: Device | undefined }> {
  const token = cookieIn(request, SESSION_COOKIE)
  return { token, device: token ? await deviceWith(token) : undefined }
}

/** Nobody outside says who asks. */
function dropClaims({ headers }: IncomingMessage): void {
  delete headers[ASKER]
  delete headers[SESSION]
}

/** Lets paired devices on, as who they are. `trust` is where plain HTTP tells how the authority is trusted. */
export function paired(trust: (request: IncomingMessage) => string): Middleware {
  const letIn = async (request: IncomingMessage, response: ServerResponse, next: () => void): Promise<void> => {
    const { method = '', url = '' } = request
    const path = url.split('?')[0]!
    const { token, device } = await sessionOf(request)
    if (path === PAIR && method === 'POST') return pair(request, response)
    if (path === PAIR && method === 'GET')
      return showPairing(request, response, trust(request), token !== undefined && !device)
    if (!device || !token) {
      if (method === 'GET' && /\btext\/html\b/.test(request.headers.accept ?? '')) {
        response.writeHead(303, { location: PAIR, 'cache-control': 'no-store' })
        response.end()
        return
      }
      return answer(response, 401, { error: token ? PUT_OUT : 'This device is not paired with this Ivent.' })
    }
    const no = refusalForDevice(device.rights, method, path)
    if (no !== undefined) return answer(response, 403, { error: no })
    request.headers[ASKER] = askerHeader(device)
    request.headers[SESSION] = token
    // a name or rights that the bench has changed since
    if (cookieIn(request, DEVICE_COOKIE) !== deviceText(device)) response.setHeader('set-cookie', deviceCookie(device))
    void noteSeen(device).catch(() => undefined)
    next()
  }
  return (request, response, next) => {
    dropClaims(request)
    letIn(request, response, next).catch((error: unknown) => {
      const { status, words } = reported(error)
      if (!response.headersSent) answer(response, status, { error: words })
      else response.end()
    })
  }
}

/** On this machine itself it is the bench that asks. */
export const fromBench: Middleware = (request, _response, next) => {
  dropClaims(request)
  next()
}
