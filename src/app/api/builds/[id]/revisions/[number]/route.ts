import { answering, json, readJson, refuse } from '@/server/http'
import { markRevision, readRevision } from '@/server/revisions'

type Context = { params: Promise<{ id: string; number: string }> }
const none = () => refuse(404, 'There is no such version. It may have been thinned out.')

export const GET = answering(async (_: Request, { params }: Context) => {
  const { id, number } = await params
  const document = await readRevision(id, Number(number))
  return document ? json(document) : none()
})

/** PATCH { marked: true } keeps a version for ever. */
export const PATCH = answering(async (request: Request, { params }: Context) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const marked = (body.value as { marked?: unknown } | null)?.marked
  if (typeof marked !== 'boolean') return refuse(400, 'Say { "marked": true } or false.')
  const { id, number } = await params
  return (await markRevision(id, Number(number), marked)) ? json({ marked }) : none()
})
