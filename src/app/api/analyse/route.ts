import { analyse } from '@/plan/analyse'
import { json, readBuildFrom, readJson } from '@/server/http'
import { today } from '@/server/today'

/** POST a build, get its analysis: the same JSON as ./ivent analyse FILE. */
export async function POST(request: Request): Promise<Response> {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const read = readBuildFrom(body.value)
  return read.ok ? json(analyse(read.build, today())) : read.response
}
