/** The open database of this process: one driver, its lock, its migrations. Reached through `query` and `transaction` alone. */
import { createReadStream, existsSync } from 'node:fs'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { openPostgres, type ServerDriver } from './postgres'
import { isReading, openPglite, type Driver, type Query, type DatabaseRow } from './driver'
import { closeToOthers, hasStore, makeStore, placeIn, settleFolder, takePlace } from './folder'
import { takeLock, type Lock } from './lock'
import { migrateDatabase, unseenMigrations } from './migrations'
import { isUnreached, TroubleError } from './trouble'

export type { Query, DatabaseRow } from './driver'

export const dataFolder = (): string => process.env.IVENT_DATA ?? join(process.cwd(), 'data')
/** A database already made and migrated, so that a first start takes a second instead of six. Made by `./ivent` beside the build. */
export const PREPARED_STORE = join(process.cwd(), '.cache', 'empty-store.tgz')

type Store = {
  readonly folder: string
  readonly db: Driver
  readonly lock: Pick<Lock, 'held' | 'release'>
  /** where the database is a server's: what other Ivents do there */
  readonly server?: ServerDriver
}
/** The PostgreSQL server that holds the data, where it is not embedded. */
const serverUrl = () => process.env.DATABASE_URL || undefined
/** Kept on globalThis: a development reload must not open the folder twice. */
const kept = globalThis as { iventStore?: Promise<Store> | undefined; iventEra?: number; iventShut?: boolean }

type StoreOpening = {
  /** an existing database that is about to be migrated */
  readonly beforeMigration?: (db: Driver) => Promise<void>
}

/** A server may come up after Ivent, as when a shop switches its machines on: it is asked again for this long. */
const SERVER_WAIT_MS = 30_000
const SERVER_RETRY_MS = 500

/** Opens the database of a server, and waits for one that does not answer yet. */
export async function openWhenReached(url: string, waitMs = SERVER_WAIT_MS): Promise<ServerDriver> {
  const last = Date.now() + waitMs
  for (;;)
    try {
      return await openPostgres(url)
    } catch (error) {
      if (!isUnreached(error) || Date.now() > last) throw error
      await new Promise((resolve) => setTimeout(resolve, SERVER_RETRY_MS))
    }
}

/** A server locks and backs up by itself: here it is migrated, one Ivent after another. */
async function openServer(folder: string, url: string): Promise<Store> {
  process.umask(0o077)
  const server = await openWhenReached(url)
  try {
    await server.inTurn(() => migrateDatabase(server))
  } catch (error) {
    await server.close()
    throw error
  }
  return { folder, db: server, server, lock: { held: () => true, release: () => undefined } }
}

async function open(folder: string, { beforeMigration }: StoreOpening): Promise<Store> {
  const url = serverUrl()
  if (url !== undefined) return openServer(folder, url)
  // what Ivent writes is its user's alone
  process.umask(0o077)
  const lock = takeLock(folder, process.env.PORT)
  try {
    settleFolder(folder)
    if (!hasStore(folder)) {
      await makeStore(
        folder,
        existsSync(PREPARED_STORE) ? createReadStream(PREPARED_STORE) : undefined,
        migrateDatabase,
      )
      takePlace(folder)
    }
    const db = await openPglite(placeIn(folder))
    closeToOthers(placeIn(folder))
    if ((await unseenMigrations(db)).length > 0) {
      await beforeMigration?.(db)
      await migrateDatabase(db)
    }
    return { folder, db, lock }
  } catch (error) {
    lock.release()
    throw error
  }
}

/** Opens the store, once; a failure is told to whoever waits and the next call tries again. */
export function openStore(opening: StoreOpening = {}): Promise<Store> {
  kept.iventStore ??= open(dataFolder(), opening).catch((error: unknown) => {
    kept.iventStore = undefined
    throw error
  })
  return kept.iventStore
}

/** The store, as long as the folder is this process's. */
async function own(): Promise<Store> {
  const store = await openStore()
  if (store.lock.held()) return store
  throw new TroubleError(
    503,
    `The lock of the data folder ${store.folder} is gone: another Ivent may be writing there, ` +
      'so this one has stopped. Nothing was changed. Stop every Ivent that uses this folder and start one.',
  )
}

/** Refuses a change while a backup is being put back: it would go with what stands there now. */
function mustBeOpen(): void {
  if (kept.iventShut)
    throw new TroubleError(503, 'A backup is being put back, so nothing was changed. Try again in a moment.')
}

export const query: Query = async <T extends DatabaseRow>(sql: string, params: readonly unknown[] = []) => {
  if (!isReading(sql)) mustBeOpen()
  return (await own()).db.query<T>(sql, params)
}

export async function transaction<T>(work: (query: Query) => Promise<T>): Promise<T> {
  const { db } = await own()
  mustBeOpen()
  return db.transaction(work)
}

/**
 * Does something while nothing is saved: what was being saved is finished first, what comes meanwhile is refused in words. One at a time.
 */
export async function withSavesRefused<T>(work: () => Promise<T>): Promise<T> {
  const { db } = await own()
  if (kept.iventShut)
    throw new TroubleError(409, 'A backup is being put back already. Nothing was changed by this one.')
  kept.iventShut = true
  try {
    // transactions come one after another: this one after all that were let in
    await db.transaction(() => Promise.resolve())
    return await work()
  } finally {
    kept.iventShut = false
  }
}

/** Closes the database and gives the folder back. A script that forgets this never exits. */
export async function closeStore(): Promise<void> {
  const store = await kept.iventStore?.catch(() => undefined)
  kept.iventStore = undefined
  if (!store) return
  // closing writes: not into a folder that is another's by now
  if (store.lock.held()) await store.db.close()
  store.lock.release()
}

/** What other Ivents on this database do, and how they are told; undefined where the database is embedded, and this process's alone. */
export const otherIvents = async (): Promise<Pick<ServerDriver, 'onNotice' | 'notify' | 'inTurn'> | undefined> =>
  (await own()).server

/** Which database this is: another one once a backup was put back. What is remembered of one is not true of the next. */
export const databaseGeneration = (): number => kept.iventEra ?? 0

/** The whole database as a compressed archive, in pieces: for backup and for the prepared empty one. */
export const dumpStore = async (): Promise<Readable> => (await own()).db.dump()

export const countBuilds = async (db: Pick<Driver, 'query'>): Promise<number> =>
  (await db.query<{ n: number }>('select count(*)::int as n from build where removed_at is null'))[0]!.n

/** Done to a database that was put back, before anybody else reaches it. */
type Settle = (db: Pick<Driver, 'query'>) => Promise<void>

/** Closes the database, puts the one that was made in its place and opens that. */
async function exchange(store: Store, settle: Settle): Promise<Store> {
  try {
    await store.db.close()
    kept.iventEra = databaseGeneration() + 1
    takePlace(store.folder)
    const db = await openPglite(placeIn(store.folder))
    await migrateDatabase(db)
    await settle(db)
    return { ...store, db }
  } catch (error) {
    // the next call opens the folder anew, and settles what was left
    kept.iventStore = undefined
    store.lock.release()
    throw error
  }
}

/**
 * Puts an archive into the place of the database: it is unpacked beside and opened once, so that one that is no database changes nothing.
 * What stood there is kept beside. Whoever reads meanwhile waits for the new one. Returns how many builds it brought.
 */
export async function restoreStore(archive: Readable, settle: Settle): Promise<number> {
  const store = await own()
  const builds = await makeStore(store.folder, archive, countBuilds)
  kept.iventStore = exchange(store, settle)
  await kept.iventStore
  return builds
}

/** The same for a folder whose database does not open, or that has none: by the command line alone. */
export async function restoreFolder(folder: string, archive: Readable, settle: Settle): Promise<number> {
  process.umask(0o077)
  const lock = takeLock(folder)
  try {
    settleFolder(folder)
    const builds = await makeStore(folder, archive, async (db) => {
      await migrateDatabase(db)
      await settle(db)
      return countBuilds(db)
    })
    takePlace(folder)
    return builds
  } finally {
    lock.release()
  }
}
