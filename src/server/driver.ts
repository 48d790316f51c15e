/** All that Ivent knows of a database: plain SQL with numbered parameters. The same SQL runs on a PostgreSQL server. */
import { execFile } from 'node:child_process'
import { open, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { promisify } from 'node:util'
import type { Readable } from 'node:stream'
import { PGlite, type Transaction } from '@electric-sql/pglite'
import { packFolder } from './archive'

export type DatabaseRow = Record<string, unknown>
export type Query = <T extends DatabaseRow>(sql: string, params?: readonly unknown[]) => Promise<T[]>

export type Driver = {
  readonly query: Query
  /** all of `work` or nothing of it */
  readonly transaction: <T>(work: (query: Query) => Promise<T>) => Promise<T>
  /** several statements without parameters */
  readonly script: (sql: string) => Promise<void>
  /** the whole database as a compressed archive, in pieces, while it goes on; ends in an error when it is closed meanwhile */
  readonly dump: () => Readable
  readonly close: () => Promise<void>
}

const querying =
  (db: Pick<PGlite | Transaction, 'query'>): Query =>
  async <T extends DatabaseRow>(sql: string, params: readonly unknown[] = []) =>
    (await db.query<T>(sql, [...params])).rows

/**
 * The write-ahead log onto the disk. The embedded database never asks for that itself: without it a power cut may take what was
 * acknowledged. Data files need none before the next checkpoint, which it makes only when it opens after a crash and when it closes.
 */
async function syncLog(dataDir: string): Promise<void> {
  const folder = join(dataDir, 'pg_wal')
  const segments = (await readdir(folder, { withFileTypes: true })).filter((e) => e.isFile())
  const onto = async (path: string) => {
    const file = await open(path, 'r')
    try {
      await file.sync()
    } finally {
      await file.close()
    }
  }
  await Promise.all(segments.map((e) => onto(join(folder, e.name))))
  await onto(folder)
}
/** Everything onto the disk: what a checkpoint counts on. */
const syncAll = (dataDir: string) => promisify(execFile)('sync', ['-f', dataDir]).catch(() => undefined)

const READS = /^\s*(select|show)\b/i
/** Whether a statement changes nothing. */
export const isReading = (sql: string): boolean => READS.test(sql)

/** PostgreSQL inside this process, in a folder. What it has answered survives a power cut. */
export async function openPglite(dataDir: string): Promise<Driver> {
  const db = await PGlite.create({ dataDir })
  let closed = false
  await syncAll(dataDir)
  const direct = querying(db)
  return {
    query: async <T extends DatabaseRow>(sql: string, params?: readonly unknown[]) => {
      const rows = await direct<T>(sql, params)
      if (!isReading(sql)) await syncLog(dataDir)
      return rows
    },
    transaction: async (work) => {
      const done = await db.transaction((tx) => work(querying(tx)))
      await syncLog(dataDir)
      return done
    },
    script: async (sql) => {
      await db.exec(sql)
      await syncLog(dataDir)
    },
    dump: () => packFolder(dataDir, () => closed),
    close: async () => {
      closed = true
      await db.close()
      await syncAll(dataDir)
    },
  }
}
