/**
 * The local network's way in: HTTPS (HTTP/2 and 1.1) for devices that are paired, and beside it plain HTTP that tells how the certificate is
 * trusted. Only who is on the local network is answered.
 */
import { createServer, type RequestListener, type Server } from 'node:http'
import { createSecureServer, type Http2SecureServer } from 'node:http2'
import type { IncomingMessage } from 'node:http'
import type { Socket } from 'node:net'
import { hostIn, lanUrl, setLan } from '../../server/lan'
import { guard, headers } from '../guard'
import { inOrder, type Middleware } from '../in-order'
import { authorityFile, certify, canCertify, openAuthority, type Authority, type ServerCertificate } from './authority'
import { isOnLan, lanAddresses, lanNames, lanRanges } from './addresses'
import { AUTHORITY_FILE, policyOf, trustPage } from './pages'
import { paired } from './session'

/** How often this machine's addresses are looked at again. */
const LOOK_MS = 3000
/** A certificate is made anew when it has this long to go. */
const RENEW_MS = 30 * 24 * 3600 * 1000

type LanOptions = {
  readonly folder: string
  /** HTTPS here, plain HTTP on the next one */
  readonly port: number
  readonly development: boolean
  /** what paired devices reach */
  readonly application: readonly Middleware[]
}

/** Asked in HTTP/2, a request names its host otherwise, and has headers whose names Next does not take. */
const plainHeaders: Middleware = (request, _response, next) => {
  const own = Object.entries(request.headers).filter(([name]) => !name.startsWith(':'))
  const host = request.headers.host ?? request.headers[':authority']
  Object.defineProperty(request, 'headers', { value: { ...Object.fromEntries(own), host } })
  next()
}

/** Refuses connections from elsewhere before a word is said. */
function onLanAlone(server: Server | Http2SecureServer): void {
  server.on('connection', (socket: Socket) => {
    if (!isOnLan(socket.remoteAddress)) socket.destroy()
  })
}

const listening = (server: Server | Http2SecureServer, port: number): Promise<void> =>
  new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE'
          ? new Error(
              `Port ${port} is taken, which the local network needs. Choose another with PORT; the two after it must be free.`,
            )
          : error,
      ),
    )
    server.listen(port, resolve)
  })

/** Plain HTTP: one page and the certificate that it is about, for who asks by an address of this machine. */
function trustServer({
  authority,
  hosts,
  port,
}: {
  authority: Authority
  hosts: () => readonly string[]
  port: number
}): Server {
  const { der, fingerprint } = authorityFile(authority)
  const page: RequestListener = (request, response) => {
    if (request.method !== 'GET' && request.method !== 'HEAD') return void response.writeHead(405).end()
    if (request.url === AUTHORITY_FILE) {
      response.writeHead(200, {
        'content-type': 'application/x-x509-ca-cert',
        'content-disposition': 'attachment; filename="ivent-authority.crt"',
        'content-length': der.length,
      })
      return void response.end(der)
    }
    if (request.url !== '/')
      return void response.writeHead(404, { 'content-type': 'text/plain' }).end('Nothing is here but the page at /.')
    response.writeHead(200, {
      'content-type': 'text/html; charset=utf-8',
      'cache-control': 'no-store',
      'content-security-policy': policyOf("script-src 'none'"),
    })
    response.end(trustPage({ fingerprint, address: `https://${hostOf(request)}:${port}` }))
  }
  return createServer(
    inOrder(
      guard(() => ({ hosts: hosts(), proxies: [], protocol: 'http' })),
      headers(false),
      page,
    ),
  )
}
const hostOf = ({ headers: { host = '' } }: IncomingMessage): string => host.replace(/:\d+$/, '')

/** Serves the local network from now on; its addresses and certificate follow the machine's. */
export async function serveLan({ folder, port, development, application }: LanOptions): Promise<Http2SecureServer> {
  const trustPort = port + 1
  const authority = await openAuthority(folder, { names: lanNames(), ranges: lanRanges() })
  const { fingerprint } = authorityFile(authority)
  const vouchedFor = () => lanAddresses().filter((address) => canCertify(authority, address))
  let addresses = vouchedFor()
  // a cable that is pulled takes its address along: the certificate still names it when it is back
  const seen = new Set(addresses)
  let certificate: ServerCertificate = await certify(authority, addresses)
  const hosts = () => [...[...seen].map(hostIn), ...authority.names]
  const publish = () => setLan({ addresses, name: authority.names[0], port, trustPort, fingerprint })
  const announce = () => {
    const urls = addresses.map((a) => `${lanUrl(a, port)}  (first, once a device: ${lanUrl(a, trustPort, 'http')})`)
    console.error(
      `On the local network: ${urls.join('\n                      ') || 'no address; waiting for a network'}`,
    )
  }

  const secure = createSecureServer(
    { allowHTTP1: true, key: certificate.key, cert: certificate.cert, minVersion: 'TLSv1.2' },
    inOrder(
      plainHeaders,
      guard(() => ({ hosts: hosts(), proxies: [], protocol: 'https' })),
      headers(development),
      paired((request) => `http://${hostOf(request)}:${trustPort}/`),
      ...application,
    ) as unknown as Parameters<typeof createSecureServer>[1] & object,
  )
  const trust = trustServer({ authority, hosts, port })
  for (const server of [secure, trust]) onLanAlone(server)
  await Promise.all([listening(secure, port), listening(trust, trustPort)])
  publish()
  announce()

  const look = async () => {
    const now = vouchedFor()
    if (now.some((address) => !seen.has(address)) || certificate.until.getTime() - Date.now() < RENEW_MS) {
      for (const address of now) seen.add(address)
      certificate = await certify(authority, [...seen])
      secure.setSecureContext({ key: certificate.key, cert: certificate.cert })
    }
    if (now.join(' ') === addresses.join(' ')) return
    addresses = now
    publish()
    announce()
  }
  setInterval(() => {
    look().catch((error: unknown) => console.error(`The certificate could not be renewed: ${String(error)}`))
  }, LOOK_MS).unref()
  return secure
}
