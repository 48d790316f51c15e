/**
 * Carries a store from a data folder to a PostgreSQL server, or back. Nobody may use either meanwhile; what was carried is left where it
 * was.
 */
import { copyDatabase, type CopiedTable } from './copy-database'
import { openPglite } from './driver'
import { closeToOthers, hasStore, makeStore, placeIn, settleFolder, takePlace } from './folder'
import { takeLock } from './lock'
import { migrateDatabase } from './migrations'
import { openPostgres, type ServerDriver } from './postgres'
import { TroubleError } from './trouble'

async function withServer<T>(url: string, work: (server: ServerDriver) => Promise<T>): Promise<T> {
  const server = await openPostgres(url, true)
  try {
    return await work(server)
  } finally {
    await server.close()
  }
}

async function withFolder<T>(folder: string, work: () => Promise<T>): Promise<T> {
  process.umask(0o077)
  const lock = takeLock(folder)
  try {
    settleFolder(folder)
    return await work()
  } finally {
    lock.release()
  }
}

/** From the folder into an empty database of a server. */
export async function moveToServer(folder: string, url: string): Promise<readonly CopiedTable[]> {
  if (!hasStore(folder))
    throw new TroubleError(404, `There is no Ivent data in ${folder}. Say where it is with IVENT_DATA.`)
  return withFolder(folder, async () => {
    const db = await openPglite(placeIn(folder))
    try {
      return await withServer(url, async (server) => {
        await migrateDatabase(server)
        return copyDatabase(db, server)
      })
    } finally {
      await db.close()
      closeToOthers(placeIn(folder))
    }
  })
}

/** From a server into the folder, whole or not at all. What stood there is kept in it as pg.before-…, as when a backup is put back. */
export const moveFromServer = (folder: string, url: string): Promise<readonly CopiedTable[]> =>
  withServer(url, (server) =>
    withFolder(folder, async () => {
      const copied = await makeStore(folder, undefined, async (db) => {
        await migrateDatabase(db)
        return copyDatabase(server, db)
      })
      takePlace(folder)
      return copied
    }),
  )
