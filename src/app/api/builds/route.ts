import { createBuild, listHeads, listRemoved } from '@/server/builds'
import { answering, json, readBuildFrom, readJson, refuse } from '@/server/http'
import { summariseSoon, tooLargeToShow } from '@/server/judge'
import { kindPriorFor } from '@/server/kind-prior'
import { today } from '@/server/today'

export const dynamic = 'force-dynamic'

/** Builds in the garage; `?removed=1` those taken out of it. */
export const GET = answering(async (request: Request) =>
  json(new URL(request.url).searchParams.has('removed') ? await listRemoved() : await listHeads()),
)

export const POST = answering(async (request: Request) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const read = readBuildFrom(body.value)
  if (!read.ok) return read.response
  const large = await tooLargeToShow(read.build, today())
  if (large !== undefined) return refuse(422, `${large} Nothing was changed.`)
  // a new car goes by what others of its kind have taught
  const isNew = read.build.log.length === 0 && !read.build.kindPrior
  const kindPrior = isNew ? await kindPriorFor(read.build, undefined) : undefined
  const build = kindPrior ? { ...read.build, kindPrior } : read.build
  const { id, revision } = await createBuild(build)
  summariseSoon({ id, revision, document: build }, today())
  return json({ id, revision }, 201)
})
