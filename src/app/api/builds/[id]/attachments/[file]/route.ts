import { isId } from '@/server/ids'
import { nameProblem, readAttachment, removeFile, renameAttachment } from '@/server/files'
import { answering, json, readJson, refuse } from '@/server/http'
import { announcePhotos } from '@/server/live'
import { query } from '@/server/store'

type Context = { params: Promise<{ id: string; file: string }> }
const none = () => refuse(404, 'There is no such attachment.')

/** The picture itself. */
export const GET = answering(async (_: Request, { params }: Context) => {
  const { id, file } = await params
  const found = isId(id) && isId(file) ? await readAttachment(query, id, file) : undefined
  if (!found) return none()
  return new Response(new Uint8Array(found.bytes), {
    headers: { 'content-type': found.type, 'cache-control': 'private, max-age=31536000, immutable' },
  })
})

/** Another name: `{ name }`. */
export const PATCH = answering(async (request: Request, { params }: Context) => {
  const { id, file } = await params
  const body = await readJson(request, 4000)
  if (!body.ok) return body.response
  const { name } = (body.value ?? {}) as { name?: unknown }
  const problem = nameProblem(name)
  if (problem !== undefined) return refuse(422, `${problem} Nothing was changed.`)
  if (!isId(id) || !isId(file) || !(await renameAttachment(query, id, file, String(name).trim()))) return none()
  announcePhotos(id)
  return json({ renamed: true })
})

export const DELETE = answering(async (_: Request, { params }: Context) => {
  const { id, file } = await params
  const removed = isId(id) && isId(file) && (await removeFile(query, 'attachment', id, file))
  if (!removed) return none()
  announcePhotos(id)
  return json({ removed: true })
})
