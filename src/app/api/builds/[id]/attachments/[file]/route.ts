import { isId } from '@/server/ids'
import { readAttachment, removeFile } from '@/server/files'
import { answering, json, refuse } from '@/server/http'
import { tellPhotos } from '@/server/live'
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

export const DELETE = answering(async (_: Request, { params }: Context) => {
  const { id, file } = await params
  const removed = isId(id) && isId(file) && (await removeFile(query, 'attachment', id, file))
  if (!removed) return none()
  tellPhotos(id)
  return json({ removed: true })
})
