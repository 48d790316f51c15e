import { isId } from '@/server/ids'
import { readRecording, removeFile } from '@/server/files'
import { answering, json, refuse } from '@/server/http'
import { query } from '@/server/store'

type Context = { params: Promise<{ id: string; file: string }> }
const none = () => refuse(404, 'There is no such recording.')

export const GET = answering(async (_: Request, { params }: Context) => {
  const { id, file } = await params
  const found = isId(id) && isId(file) ? await readRecording(query, id, file) : undefined
  return found
    ? new Response(found, { headers: { 'content-type': 'application/json', 'cache-control': 'no-store' } })
    : none()
})

export const DELETE = answering(async (_: Request, { params }: Context) => {
  const { id, file } = await params
  const removed = isId(id) && isId(file) && (await removeFile(query, 'recording', id, file))
  return removed ? json({ removed: true }) : none()
})
