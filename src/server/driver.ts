/** All that Ivent knows of a database: plain SQL with numbered parameters. The same SQL runs on a PostgreSQL server. */
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

/** PostgreSQL inside this process, in a folder; of an archive where one is given. */
export async function openPglite(dataDir: string, archive?: Buffer): Promise<Driver> {
  const db = await PGlite.create({ dataDir, ...(archive ? { loadDataDir: new Blob([new Uint8Array(archive)]) } : {}) })
  return {
    query: querying(db),
    transaction: (work) => db.transaction((tx) => work(querying(tx))),
    script: async (sql) => {
      await db.exec(sql)
    },
    dump: async () => Buffer.from(await (await db.dumpDataDir('gzip')).arrayBuffer()),
    close: () => db.close(),
  }
}
