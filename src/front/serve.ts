/**
 * The server: plain HTTP for this machine in front of Next, and beside it HTTPS for the local network where that is asked for. Each request
 * is taken through the steps below in order. `./ivent` bundles it and starts it as
 * `node .cache/serve.cjs start|dev`.
 */
import { readFile } from 'node:fs/promises'
import { createServer, type RequestListener } from 'node:http'
import compression from 'compression'
import createNext from 'next'
import sirv from 'sirv'
import { allowedBy, guard, headers } from './guard'
import { inOrder, type Middleware } from './in-order'
import { fromBench, sessionOf } from './lan/session'
import { pageCache, renderedVersions } from './page-cache'
import { ASKER } from '../server/asker'
import { dataFolder } from '../server/store'

const HOST = '127.0.0.1'

/** Smaller on the way. A page that goes no further than this machine is sent plain: packing it anew each time takes longer than sending. */
const compress = compression({
  filter: (request, response) => {
    const { headers: asked, url = '' } = request
    const stays = asked['x-forwarded-for'] === undefined && asked[ASKER] === undefined
    const plain = stays && renderedVersions(url) !== undefined
    // what is told as it happens waits for no more to be packed with it
    const live = String(response.getHeader('content-type')).startsWith('text/event-stream')
    return !plain && !live && compression.filter(request, response)
  },
}) as unknown as Middleware

/** Scripts, styles and fonts of the build, packed when it was made: a name never means another file. */
const STATIC = '/_next/static'
function built(): Middleware {
  const files = sirv('.next/static', { brotli: true, immutable: true, maxAge: 365 * 24 * 3600, etag: true })
  return (request, response, next) => {
    const { url = '' } = request
    if (!url.startsWith(`${STATIC}/`)) return next()
    request.url = url.slice(STATIC.length)
    files(request, response, () => {
      request.url = url
      next()
    })
  }
}

/** What keeps pages in the browser. Asked for at each visit: a newer one takes over once it is there. */
const WORKER = '/service-worker.js'
const serviceWorker: Middleware = (request, response, next) => {
  if (request.url?.split('?')[0] !== WORKER) return next()
  readFile('.cache/service-worker.js').then(
    (script) => {
      response.writeHead(200, { 'content-type': 'text/javascript', 'cache-control': 'no-cache' })
      response.end(script)
    },
    () => response.writeHead(404).end(),
  )
}

async function serve(mode: string | undefined): Promise<void> {
  const development = mode === 'dev'
  const port = Number(process.env.PORT)
  const server = createServer()
  const next = createNext({ dev: development, dir: process.cwd(), hostname: HOST, port, httpServer: server })
  await next.prepare()
  const handle = next.getRequestHandler()
  const draw: RequestListener = (request, response) => void handle(request, response)
  const application = [
    ...(development ? [] : [built()]),
    compress,
    ...(development ? [] : [serviceWorker]),
    // a development server draws every page anew: its source may be another
    ...(development ? [] : [pageCache(draw)]),
    draw,
  ]
  const allowed = allowedBy(process.env)
  server.on(
    'request',
    inOrder(
      guard(() => allowed),
      headers(development),
      fromBench,
      ...application,
    ),
  )
  if (process.env.IVENT_LAN === '1') {
    // loaded by who asks for it
    const { serveLan } = await import('./lan/lan-server')
    const secure = await serveLan({ folder: dataFolder(), port: port + 1, development, application })
    // what a development server tells its pages goes the way that it does on this machine
    if (development)
      secure.on('upgrade', (request, socket, head) => {
        void sessionOf(request).then(({ device }) =>
          device ? server.emit('upgrade', request, socket, head) : socket.destroy(),
        )
      })
  }
  server.listen(port, HOST)
}

serve(process.argv[2]).catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error)
  process.exit(1)
})
