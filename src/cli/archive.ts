/** ./ivent backup FILE and ./ivent restore FILE: the whole data folder as one archive. Ivent must not be running. */
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { FolderHeldError, takeLock } from '@/server/lock'
import { closeStore, dataFolder, dumpStore } from '@/server/store'

const [, , action, file] = process.argv
if ((action !== 'backup' && action !== 'restore') || !file) {
  console.error('Use ./ivent backup FILE or ./ivent restore FILE')
  process.exit(2)
}

async function restore(from: string): Promise<void> {
  const release = takeLock(dataFolder())
  try {
    const target = join(dataFolder(), 'pg')
    const fresh = `${target}.restoring-${Date.now()}`
    // opened once before anything is moved: an archive that is no database changes nothing
    const db = await PGlite.create({ dataDir: fresh, loadDataDir: new Blob([readFileSync(from)]) })
    const builds = (await db.query<{ n: number }>('select count(*)::int as n from build')).rows[0]!.n
    await db.close()
    if (existsSync(target)) {
      const aside = `${target}.before-${new Date().toISOString().replaceAll(/[:.]/g, '-')}`
      renameSync(target, aside)
      console.log(`What was there is kept in ${aside}`)
    }
    renameSync(fresh, target)
    console.log(`Restored ${builds} builds from ${from}`)
  } finally {
    release()
  }
}

async function main(to: string): Promise<void> {
  if (action === 'restore') return restore(to)
  writeFileSync(to, await dumpStore())
  await closeStore()
  console.log(`Saved ${dataFolder()} to ${to}`)
}

main(file).catch((error: unknown) => {
  console.error(
    error instanceof FolderHeldError
      ? error.message
      : `Could not ${action}: ${error instanceof Error ? error.message : String(error)}`,
  )
  process.exit(1)
})
