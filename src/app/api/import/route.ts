import { createBuild } from '@/server/builds'
import { answering, json, MAX_FILE, readJson, unsound } from '@/server/http'
import { takeApart } from '@/server/import-file'

export const POST = answering(async (request: Request) => {
  const body = await readJson(request, MAX_FILE)
  if (!body.ok) return body.response
  const taken = takeApart(body.value)
  if (!taken.ok) return unsound(taken.problems)
  const { id, revision } = await createBuild(taken.build, 'brought in', taken.files)
  return json({ id, revision, name: taken.build.name }, 201)
})
