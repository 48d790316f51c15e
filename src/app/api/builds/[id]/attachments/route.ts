import { readBuild } from '@/server/builds'
import { addFile, attachmentProblem, listAttachments, storedAttachment, type Attachment } from '@/server/files'
import { answering, gone, json, MAX_UPLOAD, readJson, refuse } from '@/server/http'
import { announcePhotos } from '@/server/live'
import { query, transaction } from '@/server/store'

type Context = { params: Promise<{ id: string }> }

export const GET = answering(async (_: Request, { params }: Context) => {
  const found = await readBuild((await params).id)
  return found ? json(await listAttachments(query, found.id)) : gone()
})

export const POST = answering(async (request: Request, { params }: Context) => {
  const body = await readJson(request, MAX_UPLOAD)
  if (!body.ok) return body.response
  const problem = attachmentProblem(body.value)
  if (problem !== undefined) return refuse(422, `This attachment ${problem}. Nothing was changed.`)
  const found = await readBuild((await params).id)
  if (!found) return gone()
  const added = await transaction((q) => addFile(q, found.id, storedAttachment(body.value as Attachment)))
  if (!added.ok) return refuse(409, added.reason)
  announcePhotos(found.id)
  return json({ id: added.id }, 201)
})
