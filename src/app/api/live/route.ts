import { askerOf } from '@/server/asker'
import { answering, json, readJson, refuse } from '@/server/http'
import { isId } from '@/server/ids'
import { openLive, reportPlace } from '@/server/live'

export const dynamic = 'force-dynamic'

/** What happens, as it happens: server-sent events of kind `hello`, `changed` and `here`. */
export const GET = answering((request: Request) => {
  const stream = openLive(askerOf(request), new Headers(request.headers))
  return Promise.resolve(
    stream
      ? new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' } })
      : refuse(503, 'Too many devices look on at once.'),
  )
})

const MOST_WORDS = 200
const words = (x: unknown): x is string => typeof x === 'string' && x.length <= MOST_WORDS

/** A window says where it is: `{ connection, window, place: { build, station, at, says } }`, or with `place: null` that it is gone. */
export const POST = answering(async (request: Request) => {
  const body = await readJson(request, 4000)
  if (!body.ok) return body.response
  const { connection, window, place } = (body.value ?? {}) as Record<string, unknown>
  if (!isId(connection) || !isId(window)) return refuse(400, 'A place is of a window and its connection.')
  const { build, station, at, says } = (place ?? {}) as Record<string, unknown>
  if (place !== null && !(isId(build) && words(station) && words(says) && (at === undefined || words(at))))
    return refuse(400, 'A place has a build, a station and words.')
  const there = place === null ? undefined : { build, station, at, says }
  const said = reportPlace(askerOf(request), connection, window, there as Parameters<typeof reportPlace>[3])
  return said ? json({}) : refuse(409, 'There is no such connection.')
})
