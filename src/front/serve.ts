/**
 * The server: plain HTTP in front of Next, each request taken through the steps below in order. `./ivent` bundles it and starts it as
 * `node .cache/serve.cjs start|dev`.
 */
import { createServer, type RequestListener } from 'node:http'
import compression from 'compression'
import createNext from 'next'
import sirv from 'sirv'
import { allowedBy, guard, headers } from './guard'
import { inOrder, type Middleware } from './in-order'
import { pageCache, renderedVersions } from './page-cache'

const HOST = '127.0.0.1'

/** Smaller on the way. A page that goes no further than this machine is sent plain: packing it anew each time takes longer than sending. */
const compress = compression({
  filter: (request, response) => {
    const plain = renderedVersions(request.url ?? '') !== undefined && request.headers['x-forwarded-for'] === undefined
    return !plain && compression.filter(request, response)
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

async function serve(mode: string | undefined): Promise<void> {
  const development = mode === 'dev'
  const port = Number(process.env.PORT)
  const server = createServer()
  const next = createNext({ dev: development, dir: process.cwd(), hostname: HOST, port, httpServer: server })
  await next.prepare()
  const handle = next.getRequestHandler()
  const application: RequestListener = (request, response) => void handle(request, response)
  server.on(
    'request',
    inOrder(
      guard(allowedBy(process.env)),
      headers(development),
      ...(development ? [] : [built()]),
      compress,
      // a development server draws every page anew: its source may be another
      ...(development ? [] : [pageCache(application)]),
      application,
    ),
  )
  server.listen(port, HOST)
}

serve(process.argv[2]).catch((error: unknown) => {
  console.error(error)
  process.exit(1)
})
