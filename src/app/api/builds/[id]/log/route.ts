import type { LogEntry } from '@/plan/document/schema'
import type { Edit } from '@/plan/edit/edit'
import { askerOf } from '@/server/asker'
import { readBuild } from '@/server/builds'
import { saveChanges } from '@/server/changes'
import { answering, gone, json, readJson, refuse } from '@/server/http'
import { logPage } from '@/server/log'
import { query } from '@/server/store'

type Context = { params: Promise<{ id: string }> }
const MOST = 500

/** A page of the log, newest first: `?limit=100&from=200`. */
export const GET = answering(async (request: Request, { params }: Context) => {
  const found = await readBuild((await params).id)
  if (!found) return gone()
  const asked = new URL(request.url).searchParams
  const [limit, from] = [Number(asked.get('limit') ?? 100), Number(asked.get('from') ?? 0)]
  if (!Number.isInteger(limit) || limit < 1 || limit > MOST || !Number.isInteger(from) || from < 0)
    return refuse(400, `limit must be 1 to ${MOST}, from zero or more.`)
  return json(await logPage(query, found.id, limit, from))
})

/** Notes one entry; the same entry sent twice counts once. */
export const POST = answering(async (request: Request, { params }: Context) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const entry = body.value as { id?: unknown } | null
  if (typeof entry?.id !== 'string') return refuse(400, 'An entry needs an id.')
  const found = await readBuild((await params).id)
  if (!found) return gone()
  if (found.document.log.some((e) => e.id === entry.id)) return json({ revision: found.revision })
  const value = entry as LogEntry
  const edits: readonly Edit[] = [{ op: 'insert', path: ['log', value.id], value, before: null }]
  const saved = await saveChanges(
    found.id,
    found.revision,
    [{ id: crypto.randomUUID(), name: 'log', edits }],
    askerOf(request),
  )
  if (saved.status === 'missing') return gone()
  if (saved.status === 'refused') return refuse(422, saved.reason, saved.problems)
  return json({ revision: saved.revision }, saved.status === 'saved' ? 201 : 409)
})
