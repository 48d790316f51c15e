import { isRevision, readChanges } from '@/plan/edit/wire'
import { askerOf } from '@/server/asker'
import { changesSince, saveChanges, setAside } from '@/server/changes'
import { answering, gone, json, readJson, refuse } from '@/server/http'

export const dynamic = 'force-dynamic'

/** What was saved after a revision: `?since=12`. */
export const GET = answering(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const since = Number(new URL(request.url).searchParams.get('since'))
  if (!isRevision(since)) return refuse(400, 'Say since which revision.')
  const found = await changesSince((await params).id, since)
  return found ? json(found) : gone()
})

/**
 * Saves `{ base, changes }`: edits made on a build as of revision `base`, up to the first that clashes (409, with both sides) or is refused
 * (422). With `aside: true` they are kept beside the build instead.
 */
export const POST = answering(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const { base, changes, aside } = (body.value ?? {}) as { base?: unknown; changes?: unknown; aside?: unknown }
  if (!isRevision(base)) return refuse(400, 'Say which revision these changes are based on.')
  const read = readChanges(changes)
  if (!read.ok) return refuse(400, `These are no changes: ${read.reason}.`)
  const by = askerOf(request)
  if (aside === true)
    return (await setAside((await params).id, base, read.changes, by)) ? json({ aside: read.changes.length }) : gone()
  const saved = await saveChanges((await params).id, base, read.changes, by)
  if (saved.status === 'missing') return gone()
  return json(saved, saved.status === 'saved' ? 200 : saved.status === 'clash' ? 409 : 422)
})
