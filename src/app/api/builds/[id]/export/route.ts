import { Readable } from 'node:stream'
import { exportBuild } from '@/server/builds'
import { fileName } from '@/server/export-all'
import { answering, gone } from '@/server/http'

/** The build as one JSON file, with its log, recordings and pictures; imported again it is the same build. */
export const GET = answering(async (_: Request, { params }: { params: Promise<{ id: string }> }) => {
  const found = await exportBuild((await params).id)
  if (!found) return gone()
  return new Response(Readable.toWeb(Readable.from(found.pieces)) as ReadableStream, {
    headers: {
      'content-type': 'application/json',
      'content-disposition': `attachment; filename="${fileName(found.name)}.ivent.json"`,
    },
  })
})
