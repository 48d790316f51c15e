import { isRevision } from '@/plan/edit/wire'
import { askerOf } from '@/server/asker'
import { readBuild, removeBuild } from '@/server/builds'
import { saveDocument } from '@/server/changes'
import { answering, gone, json, readBuildFrom, readJson, refuse } from '@/server/http'

type Context = { params: Promise<{ id: string }> }

export const GET = answering(async (_: Request, { params }: Context) => {
  const found = await readBuild((await params).id)
  return found ? json(found) : gone()
})

/** Saves `{ base, document, note }`: what the document changes against revision `base` is saved as edits. A clash answers 409. */
export const PUT = answering(async (request: Request, { params }: Context) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const { base, document, note } = (body.value ?? {}) as { base?: unknown; document?: unknown; note?: unknown }
  if (!isRevision(base)) return refuse(400, 'Say which revision this save is based on.')
  const read = readBuildFrom(document)
  if (!read.ok) return read.response
  const saved = await saveDocument((await params).id, base, read.build, {
    name: typeof note === 'string' ? note : '',
    by: askerOf(request),
  })
  if (saved.status === 'missing') return gone()
  return json(saved, saved.status === 'saved' ? 200 : saved.status === 'clash' ? 409 : 422)
})

export const DELETE = answering(async (_: Request, { params }: Context) => {
  return (await removeBuild((await params).id, true)) ? json({ removed: true }) : gone()
})

/** PATCH { removed: false } puts a removed build back. */
export const PATCH = answering(async (request: Request, { params }: Context) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  if ((body.value as { removed?: unknown } | null)?.removed !== false)
    return refuse(400, 'Only { "removed": false } is known here.')
  return (await removeBuild((await params).id, false)) ? json({ removed: false }) : gone()
})
