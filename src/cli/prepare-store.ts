/** Makes the empty, migrated database that a first start unpacks. Run beside the build. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { writeWhole } from '@/server/backups'
import { closeStore, dumpStore, openStore, PREPARED_STORE } from '@/server/store'

async function prepare(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'ivent-store-'))
  process.env.IVENT_DATA = folder
  rmSync(PREPARED_STORE, { force: true })
  await openStore()
  // closed and opened again: the log of what made it is no longer needed
  await closeStore()
  await writeWhole(PREPARED_STORE, await dumpStore())
  await closeStore()
  rmSync(folder, { recursive: true, force: true })
}

void prepare()
