import { listRevisions } from '@/server/builds'
import { json } from '@/server/http'

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return json(await listRevisions((await params).id))
}
