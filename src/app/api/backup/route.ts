import { Readable } from 'node:stream'
import { answering } from '@/server/http'
import { countBuilds, dumpStore, query } from '@/server/store'

export const dynamic = 'force-dynamic'

/** The whole data folder as one archive, while Ivent runs: what `./ivent backup` asks for, and a button of the garage. */
export const GET = answering(async () => {
  const builds = await countBuilds({ query })
  const archive = await dumpStore()
  return new Response(Readable.toWeb(archive) as ReadableStream, {
    headers: {
      'content-type': 'application/gzip',
      'content-disposition': `attachment; filename="ivent-${new Date().toISOString().slice(0, 10)}.tgz"`,
      'cache-control': 'no-store',
      'x-ivent-builds': String(builds),
    },
  })
})
