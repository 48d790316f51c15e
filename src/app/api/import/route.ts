import { createBuild } from '@/server/builds'
import { json, readBuildFrom, readJson } from '@/server/http'

export async function POST(request: Request): Promise<Response> {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const read = readBuildFrom(body.value)
  if (!read.ok) return read.response
  const { id, revision } = await createBuild(read.build, 'imported')
  return json({ id, revision, name: read.build.name }, 201)
}
