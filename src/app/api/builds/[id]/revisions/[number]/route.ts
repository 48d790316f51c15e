import { readRevision } from '@/server/builds'
import { json, refuse } from '@/server/http'

export async function GET(
  _: Request,
  { params }: { params: Promise<{ id: string; number: string }> },
): Promise<Response> {
  const { id, number } = await params
  const document = await readRevision(id, Number(number))
  return document ? json(document) : refuse(404, 'There is no such revision.')
}
