import { answering, json, readBuildFrom, readJson, refuse } from '@/server/http'
import { judgeInLane } from '@/server/judge'
import { today } from '@/server/today'

/** POST a build, get its analysis: the same JSON as ./ivent analyse FILE. */
export const POST = answering(async (request: Request) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const read = readBuildFrom(body.value)
  if (!read.ok) return read.response
  const judged = await judgeInLane(read.build, today())
  return judged.ok ? json(judged.value) : refuse(503, judged.reason)
})
