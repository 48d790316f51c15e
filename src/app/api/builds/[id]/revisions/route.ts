import { answering, json } from '@/server/http'
import { listRevisions, listSetAside } from '@/server/revisions'

/** Earlier versions, newest first, and changes that clashed and were set aside. */
export const GET = answering(async (_: Request, { params }: { params: Promise<{ id: string }> }) => {
  const { id } = await params
  return json({ revisions: await listRevisions(id), setAside: await listSetAside(id) })
})
