import { createBuild } from '@/server/builds'
import { answering, json, refuse, invalidBuild } from '@/server/http'
import { readBuildFile } from '@/server/incoming'
import { summariseSoon, tooLargeToShow } from '@/server/judge'
import { today } from '@/server/today'

export const POST = answering(async (request: Request) => {
  const read = await readBuildFile(request)
  if (!read.ok) return read.response
  const taken = read.value
  if (!taken.ok) return invalidBuild(taken.problems)
  const large = await tooLargeToShow(taken.build, today())
  if (large !== undefined) return refuse(422, `${large} Nothing was changed.`)
  const { id, revision } = await createBuild(taken.build, 'brought in', taken.files)
  summariseSoon({ id, revision, document: taken.build }, today())
  return json({ id, revision, name: taken.build.name }, 201)
})
