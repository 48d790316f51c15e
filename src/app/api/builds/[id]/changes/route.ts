import { isRevision, readChanges } from '@/plan/edit/wire'
import { saveChanges } from '@/server/changes'
import { answering, gone, json, readJson, refuse } from '@/server/http'

/** Saves `{ base, changes }`: edits made on a build as of revision `base`. A clash answers 409 with both sides. */
export const POST = answering(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const { base, changes } = (body.value ?? {}) as { base?: unknown; changes?: unknown }
  if (!isRevision(base)) return refuse(400, 'Say which revision these changes are based on.')
  const read = readChanges(changes)
  if (!read.ok) return refuse(400, `These are no changes: ${read.reason}.`)
  const saved = await saveChanges((await params).id, base, read.changes)
  if (saved.status === 'missing') return gone()
  return json(saved, saved.status === 'saved' ? 200 : saved.status === 'clash' ? 409 : 422)
})
