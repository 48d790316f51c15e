/** Makes the empty, migrated database that a first start unpacks. Run beside the build. */
import { mkdirSync, mkdtempSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { closeStore, dumpStore, PREPARED_STORE } from '@/server/store'

async function prepare(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'ivent-store-'))
  process.env.IVENT_DATA = folder
  rmSync(PREPARED_STORE, { force: true })
  mkdirSync(dirname(PREPARED_STORE), { recursive: true })
  const archive = await dumpStore()
  await closeStore()
  writeFileSync(`${PREPARED_STORE}.part`, archive)
  renameSync(`${PREPARED_STORE}.part`, PREPARED_STORE)
  rmSync(folder, { recursive: true, force: true })
}

void prepare()
