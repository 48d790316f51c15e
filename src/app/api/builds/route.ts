import { createBuild, listBuilds } from '@/server/builds'
import { json, readBuildFrom, readJson } from '@/server/http'

export const dynamic = 'force-dynamic'

export async function GET(): Promise<Response> {
  return json(
    (await listBuilds()).map((b) => ({
      id: b.id,
      revision: b.revision,
      name: b.document.name,
      about: b.document.about,
      savedAt: b.savedAt,
    })),
  )
}

export async function POST(request: Request): Promise<Response> {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const read = readBuildFrom(body.value)
  if (!read.ok) return read.response
  const { id, revision } = await createBuild(read.build)
  return json({ id, revision }, 201)
}
