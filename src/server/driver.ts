/** All that Ivent knows of a database: plain SQL with numbered parameters. The same SQL runs on a PostgreSQL server. */
import { spawnSync } from 'node:child_process'
import { closeSync, fsyncSync, openSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { PGlite, type Transaction } from '@electric-sql/pglite'

export type Row = Record<string, unknown>
export type Query = <T extends Row>(sql: string, params?: readonly unknown[]) => Promise<T[]>

export type Driver = {
  readonly query: Query
  /** all of `work` or nothing of it */
  readonly transaction: <T>(work: (query: Query) => Promise<T>) => Promise<T>
  /** several statements without parameters */
  readonly script: (sql: string) => Promise<void>
  /** the whole database as a compressed archive */
  readonly dump: () => Promise<Buffer>
  readonly close: () => Promise<void>
}

const querying =
  (db: Pick<PGlite | Transaction, 'query'>): Query =>
  async <T extends Row>(sql: string, params: readonly unknown[] = []) =>
    (await db.query<T>(sql, [...params])).rows

/**
 * The write-ahead log onto the disk. The embedded database never asks for that itself: without it a power cut may take what was
 * acknowledged. Data files need none before the next checkpoint, which it makes only when it opens after a crash and when it closes.
 */
function syncLog(dataDir: string): void {
  const folder = join(dataDir, 'pg_wal')
  const segments = readdirSync(folder, { withFileTypes: true }).filter((e) => e.isFile())
  for (const path of [...segments.map((e) => join(folder, e.name)), folder]) {
    const fd = openSync(path, 'r')
    try {
      fsyncSync(fd)
    } finally {
      closeSync(fd)
    }
  }
}
/** Everything onto the disk: what a checkpoint counts on. */
const syncAll = (dataDir: string) => spawnSync('sync', ['-f', dataDir])

const READS = /^\s*(select|show)\b/i

/** PostgreSQL inside this process, in a folder; of an archive where one is given. What it has answered survives a power cut. */
export async function openPglite(dataDir: string, archive?: Buffer): Promise<Driver> {
  const db = await PGlite.create({ dataDir, ...(archive ? { loadDataDir: new Blob([new Uint8Array(archive)]) } : {}) })
  syncAll(dataDir)
  const direct = querying(db)
  return {
    query: async <T extends Row>(sql: string, params?: readonly unknown[]) => {
      const rows = await direct<T>(sql, params)
      if (!READS.test(sql)) syncLog(dataDir)
      return rows
    },
    transaction: async (work) => {
      const done = await db.transaction((tx) => work(querying(tx)))
      syncLog(dataDir)
      return done
    },
    script: async (sql) => {
      await db.exec(sql)
      syncLog(dataDir)
    },
    dump: async () => Buffer.from(await (await db.dumpDataDir('gzip')).arrayBuffer()),
    close: async () => {
      await db.close()
      syncAll(dataDir)
    },
  }
}
