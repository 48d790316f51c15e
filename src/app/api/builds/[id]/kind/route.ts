import { readBuild } from '@/server/builds'
import { answering, gone, json } from '@/server/http'
import { kindPriorFor } from '@/server/kind-prior'

export const dynamic = 'force-dynamic'

/** What other cars of its kind have taught: `{ prior }`, or `{}` where too few have. */
export const GET = answering(async (_request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const { id } = await params
  const build = (await readBuild(id))?.document
  return build ? json({ prior: await kindPriorFor(build, id) }) : gone()
})
