import { readBuild } from '@/server/builds'
import { addRecording, listRecordings, recordingProblem, type Recording } from '@/server/files'
import { answering, gone, json, MAX_FILE, readJson, refuse } from '@/server/http'
import { query } from '@/server/store'

type Context = { params: Promise<{ id: string }> }

export const GET = answering(async (_: Request, { params }: Context) => {
  const found = await readBuild((await params).id)
  return found ? json(await listRecordings(query, found.id)) : gone()
})

export const POST = answering(async (request: Request, { params }: Context) => {
  const body = await readJson(request, MAX_FILE)
  if (!body.ok) return body.response
  const problem = recordingProblem(body.value)
  if (problem !== undefined) return refuse(422, `This recording ${problem}. Nothing was changed.`)
  const found = await readBuild((await params).id)
  return found ? json({ id: await addRecording(query, found.id, body.value as Recording) }, 201) : gone()
})
