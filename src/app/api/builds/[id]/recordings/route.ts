import { readBuild } from '@/server/builds'
import { addFile, listRecordings } from '@/server/files'
import { answering, gone, json, refuse } from '@/server/http'
import { readRecordingFile } from '@/server/incoming'
import { query, transaction } from '@/server/store'

type Context = { params: Promise<{ id: string }> }

export const GET = answering(async (_: Request, { params }: Context) => {
  const found = await readBuild((await params).id)
  return found ? json(await listRecordings(query, found.id)) : gone()
})

export const POST = answering(async (request: Request, { params }: Context) => {
  const read = await readRecordingFile(request)
  if (!read.ok) return read.response
  if ('problem' in read.value) return refuse(422, `This recording ${read.value.problem}. Nothing was changed.`)
  const { recording } = read.value
  const found = await readBuild((await params).id)
  if (!found) return gone()
  const added = await transaction((q) => addFile(q, found.id, recording))
  return added.ok ? json({ id: added.id }, 201) : refuse(409, added.reason)
})
