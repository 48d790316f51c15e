import { Readable } from 'node:stream'
import { exportAll } from '@/server/export-all'
import { answering } from '@/server/http'

export const dynamic = 'force-dynamic'

/** All builds of the garage as one ZIP archive of build files, which can be brought in again. */
export const GET = answering(() =>
  Promise.resolve(
    new Response(Readable.toWeb(Readable.from(exportAll())) as ReadableStream, {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': 'attachment; filename="ivent-builds.zip"',
        'cache-control': 'no-store',
      },
    }),
  ),
)
