/** The database: PostgreSQL inside this process, one connection, plain SQL through `query` and `transaction` alone. */
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { PGlite, type Transaction } from '@electric-sql/pglite'
import { takeLock } from './lock'

export const dataFolder = (): string => process.env.IVENT_DATA ?? join(process.cwd(), 'data')
/** A database already made and migrated, so that a first start takes a second instead of six. Made by `./ivent` beside the build. */
export const PREPARED_STORE = join(process.cwd(), '.cache', 'empty-store.tgz')

export type Row = Record<string, unknown>
export type Query = <T extends Row>(sql: string, params?: readonly unknown[]) => Promise<T[]>

type Store = { readonly db: PGlite; readonly release: () => void }
/** Kept on globalThis: a development reload must not open the folder twice. */
const kept = globalThis as { iventStore?: Promise<Store> | undefined }

async function migrate(db: PGlite): Promise<void> {
  await db.exec(
    'create table if not exists migration (name text primary key, applied_at timestamptz not null default now())',
  )
  const done = new Set((await db.query<{ name: string }>('select name from migration')).rows.map((r) => r.name))
  const folder = join(process.cwd(), 'src', 'server', 'migrations')
  for (const name of readdirSync(folder)
    .filter((f) => f.endsWith('.sql'))
    .toSorted()) {
    if (done.has(name)) continue
    await db.transaction(async (tx) => {
      await tx.exec(readFileSync(join(folder, name), 'utf8'))
      await tx.query('insert into migration (name) values ($1)', [name])
    })
  }
}

async function open(folder: string): Promise<Store> {
  const release = takeLock(folder)
  try {
    const dataDir = join(folder, 'pg')
    const fresh = !existsSync(join(dataDir, 'PG_VERSION'))
    const prepared = fresh && existsSync(PREPARED_STORE)
    const db = await PGlite.create({
      dataDir,
      ...(prepared ? { loadDataDir: new Blob([readFileSync(PREPARED_STORE)]) } : {}),
    })
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
  (await (await openStore()).db.query<T>(sql, [...params])).rows

export async function transaction<T>(work: (query: Query) => Promise<T>): Promise<T> {
  const { db } = await openStore()
  return db.transaction((tx: Transaction) =>
    work(
      async <R extends Row>(sql: string, params: readonly unknown[] = []) => (await tx.query<R>(sql, [...params])).rows,
    ),
  )
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
export async function dumpStore(): Promise<Buffer> {
  const { db } = await openStore()
  return Buffer.from(await (await db.dumpDataDir('gzip')).arrayBuffer())
}
