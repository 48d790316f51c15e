/** ./ivent backup FILE and ./ivent restore FILE: the whole data folder as one archive. A running Ivent is asked for its backup. */
import { createReadStream, existsSync } from 'node:fs'
import { dirname, resolve } from 'node:path'
import { Readable } from 'node:stream'
import type { ReadableStream } from 'node:stream/web'
import { writeWhole } from '@/server/backups'
import { withoutDevices } from '@/server/devices'
import { hasStore } from '@/server/folder'
import { FolderHeldError } from '@/server/lock'
import { closeStore, countBuilds, dataFolder, dumpStore, query, restoreFolder } from '@/server/store'
import { folderTrouble } from '@/server/trouble'

const [, , action, given] = process.argv
if ((action !== 'backup' && action !== 'restore') || !given) {
  console.error('Use ./ivent backup FILE or ./ivent restore FILE')
  process.exit(2)
}
const file = resolve(given)

const buildsText = (n: number) => `${n} ${n === 1 ? 'build' : 'builds'}`

type Archive = { readonly archive: Readable; readonly builds: number }

/** From the server that holds the folder, which alone may read it. */
async function fromServer(port: string): Promise<Archive> {
  const response = await fetch(`http://127.0.0.1:${port}/api/backup`)
  if (!response.ok || !response.body) throw new Error(`the running Ivent answered ${response.status}`)
  return {
    archive: Readable.fromWeb(response.body as ReadableStream),
    builds: Number(response.headers.get('x-ivent-builds')),
  }
}

async function archiveOf(): Promise<Archive> {
  try {
    const builds = await countBuilds({ query })
    return { archive: await dumpStore(), builds }
  } catch (error) {
    if (error instanceof FolderHeldError && error.holder.port !== undefined) return fromServer(error.holder.port)
    throw error
  }
}

async function backup(): Promise<void> {
  const folder = dataFolder()
  if (!hasStore(folder)) throw new Error(`there is no Ivent data in ${folder}. Say where it is with IVENT_DATA`)
  const { archive, builds } = await archiveOf()
  await writeWhole(file, archive)
  await closeStore()
  console.log(`Saved ${buildsText(builds)} of ${folder} to ${file}`)
}

async function restore(): Promise<void> {
  const folder = dataFolder()
  if (!existsSync(file)) throw new Error(`there is no file ${file}`)
  if (!existsSync(dirname(folder))) throw new Error(`there is no folder ${dirname(folder)} to put the data into`)
  const builds = await restoreFolder(folder, createReadStream(file), withoutDevices)
  console.log(
    `Restored ${buildsText(builds)} from ${file} to ${folder}. What was there before is kept in it as pg.before-…`,
  )
}

;(action === 'restore' ? restore() : backup()).catch((error: unknown) => {
  const code = (error as { code?: unknown }).code
  const words =
    error instanceof FolderHeldError || typeof code === 'string'
      ? folderTrouble(error, dataFolder(), undefined)
      : `Could not ${action}: ${error instanceof Error ? error.message : String(error)}.`
  console.error(words)
  process.exit(1)
})
