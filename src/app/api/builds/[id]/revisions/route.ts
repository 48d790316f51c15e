import { json } from '@/server/http'
import { listRevisions, listSetAside } from '@/server/revisions'

/** Earlier versions, newest first, and changes that clashed and were set aside. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params
  return json({ revisions: await listRevisions(id), setAside: await listSetAside(id) })
}
