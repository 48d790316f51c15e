/** The open database of this process: one driver, its lock, its migrations. Reached through `query` and `transaction` alone. */
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { openPglite, type Driver, type Query, type Row } from './driver'
import { takeLock } from './lock'

export type { Query, Row } from './driver'

export const dataFolder = (): string => process.env.IVENT_DATA ?? join(process.cwd(), 'data')
/** A database already made and migrated, so that a first start takes a second instead of six. Made by `./ivent` beside the build. */
export const PREPARED_STORE = join(process.cwd(), '.cache', 'empty-store.tgz')
const MIGRATIONS = join(process.cwd(), 'src', 'server', 'migrations')

type Store = { readonly db: Driver; readonly release: () => void }
/** Kept on globalThis: a development reload must not open the folder twice. */
const kept = globalThis as { iventStore?: Promise<Store> | undefined }

/** Runs the numbered scripts that this database has not seen, each whole or not at all. */
async function migrate(db: Driver): Promise<void> {
  await db.script(
    'create table if not exists migration (name text primary key, applied_at timestamptz not null default now())',
  )
  const done = new Set((await db.query<{ name: string }>('select name from migration')).map((r) => r.name))
  for (const name of readdirSync(MIGRATIONS)
    .filter((f) => f.endsWith('.sql'))
    .toSorted()) {
    if (done.has(name)) continue
    const script = readFileSync(join(MIGRATIONS, name), 'utf8')
    await db.script(`begin; ${script}; insert into migration (name) values ('${name}'); commit;`)
  }
}

async function open(folder: string): Promise<Store> {
  const release = takeLock(folder)
  try {
    const dataDir = join(folder, 'pg')
    const prepared = !existsSync(join(dataDir, 'PG_VERSION')) && existsSync(PREPARED_STORE)
    const db = await openPglite(dataDir, prepared ? readFileSync(PREPARED_STORE) : undefined)
    await migrate(db)
    return { db, release }
  } catch (error) {
    release()
    throw error
  }
}

/** Opens the store, once; a failure is told to whoever waits and the next call tries again. */
export function openStore(): Promise<Store> {
  kept.iventStore ??= open(dataFolder()).catch((error: unknown) => {
    kept.iventStore = undefined
    throw error
  })
  return kept.iventStore
}

export const query: Query = async <T extends Row>(sql: string, params: readonly unknown[] = []) =>
  (await openStore()).db.query<T>(sql, params)

export async function transaction<T>(work: (query: Query) => Promise<T>): Promise<T> {
  return (await openStore()).db.transaction(work)
}

/** Closes the database and gives the folder back. A script that forgets this never exits. */
export async function closeStore(): Promise<void> {
  const store = await kept.iventStore?.catch(() => undefined)
  kept.iventStore = undefined
  if (!store) return
  await store.db.close()
  store.release()
}

/** The whole database as a compressed archive, for backup and for the prepared empty one. */
export const dumpStore = async (): Promise<Buffer> => (await openStore()).db.dump()
