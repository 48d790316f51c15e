import { readProgress } from '@/plan/practice/progress'
import { answering, json, readJson, refuse } from '@/server/http'
import { forgetPractice, keepPractice, listPractice } from '@/server/practice'

export const dynamic = 'force-dynamic'

/** What was practised, the newest first. */
export const GET = answering(async () => json(await listPractice()))

/** Keeps how a lesson or a hunt went; a later one of the same takes its place. */
export const PUT = answering(async (request: Request) => {
  const body = await readJson(request)
  if (!body.ok) return body.response
  const read = readProgress(body.value)
  if (!read.ok) return refuse(422, read.reason)
  await keepPractice(read.value.key, read.value.progress)
  return json({ kept: true })
})

/** Takes away what was practised: `?key=lesson worth` one thing, without it everything. */
export const DELETE = answering(async (request: Request) => {
  const key = new URL(request.url).searchParams.get('key')
  return json({ gone: await forgetPractice(key ?? undefined) })
})
