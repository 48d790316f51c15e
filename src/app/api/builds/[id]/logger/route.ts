import { LINES_TYPE } from '@/plan/recordings/line-protocol'
import { readBuild } from '@/server/builds'
import { answering, gone, json, readBody, refuse } from '@/server/http'
import { linesOf, takeLines } from '@/server/logger-runs'

export const dynamic = 'force-dynamic'
type Context = { params: Promise<{ id: string }> }

/** Largest message of a logger, bytes. */
const MOST_MESSAGE = 512_000
/** Plain text, which the smallest logger can read. */
const plain = (text: string, status = 200) =>
  new Response(`${text}\n`, {
    status,
    headers: { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' },
  })

/** Lines of the build's last run: `?run=NAME&after=NUMBER` gives those that came since. */
export const GET = answering(async (request: Request, { params }: Context) => {
  const { id } = await params
  const { searchParams } = new URL(request.url)
  const after = Number(searchParams.get('after') ?? 0)
  if (!Number.isFinite(after)) return refuse(400, 'after is the number of a line.')
  return json(linesOf(id, searchParams.get('run') ?? undefined, after) ?? null)
})

/** Lines of a logger (docs/logger.md). Answers `next N`: lines before N need not be sent again. */
export const POST = answering(async (request: Request, { params }: Context) => {
  const body = await readBody(request, MOST_MESSAGE, LINES_TYPE)
  if (!body.ok) return body.response
  const { id } = await params
  if (!(await readBuild(id))) return gone()
  const taken = takeLines(id, new TextDecoder().decode(body.value))
  return taken.ok ? plain(`next ${taken.value}`) : plain(`wrong ${taken.reason}`, 422)
})
