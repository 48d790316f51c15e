import { readBuild } from '@/server/builds'
import { refuse } from '@/server/http'

/** The build as one JSON file; imported again it is the same build. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const found = await readBuild((await params).id)
  if (!found) return refuse(404, 'There is no such build here.')
  const file =
    found.document.name
      .toLowerCase()
      .replaceAll(/[^a-z\d]+/g, '-')
      .replaceAll(/^-|-$/g, '') || 'build'
  return new Response(`${JSON.stringify(found.document, null, 1)}\n`, {
    headers: { 'content-type': 'application/json', 'content-disposition': `attachment; filename="${file}.ivent.json"` },
  })
}
