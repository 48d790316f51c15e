/**
 * The same database on a PostgreSQL server, for a shop of several machines: many connections, and several Ivents on one database that tell
 * each other of changes. Backups are made with the server's own tools.
 */
import { Client, Pool, types, type PoolClient, type QueryResultRow } from 'pg'
import { Readable } from 'node:stream'
import type { DatabaseRow, Driver, Query } from './driver'
import { TroubleError } from './trouble'

/** Counts come as text, since they could be too large for a number; here they never are. */
types.setTypeParser(types.builtins.INT8, Number)
types.setTypeParser(types.builtins.NUMERIC, Number)

const MOST_CONNECTIONS = 10
const CONNECT_MS = 5000
/** A connection that is lost is tried again after this. */
const AGAIN_MS = 1000
/** Held by every Ivent that uses the database; alone, by who carries a store into it or out of it. */
const IN_USE = 4_310_001
/** Held while a database is migrated or its first builds are laid out: one after another. */
const MIGRATING = 4_310_002
const CHANNEL = 'ivent'

/** This process, by the name that its connections bear: what it did itself it is not told. */
const OWN_NAME = `ivent-${crypto.randomUUID()}`

type Asks = Pick<PoolClient, 'query'>
const querying =
  (db: Asks): Query =>
  async <T extends DatabaseRow>(sql: string, params: readonly unknown[] = []) =>
    (await db.query<T & QueryResultRow>(sql, [...params])).rows

export type ServerDriver = Driver & {
  /** is told what other Ivents on this database have done, and with undefined that some of it may have been missed */
  readonly onNotice: (listener: (notice: string | undefined) => void) => void
  /** tells the other Ivents */
  readonly notify: (notice: string) => Promise<void>
  /** does something while no other Ivent does the same */
  readonly inTurn: <T>(work: () => Promise<T>) => Promise<T>
}

const options = (url: string) => ({
  connectionString: url,
  application_name: OWN_NAME,
  connectionTimeoutMillis: CONNECT_MS,
  keepAlive: true,
})

async function inTransaction<T>(client: PoolClient, work: (query: Query) => Promise<T>): Promise<T> {
  await client.query('begin')
  try {
    const done = await work(querying(client))
    await client.query('commit')
    return done
  } catch (error) {
    await client.query('rollback').catch(() => undefined)
    throw error
  }
}

/**
 * The one connection that holds this Ivent's place and hears of the others. It comes back by itself, and says then that something may have
 * been missed.
 */
function listening(url: string, alone: boolean) {
  const listeners: ((notice: string | undefined) => void)[] = []
  const notifyAll = (notice: string | undefined) => {
    for (const listener of listeners) listener(notice)
  }
  let client: Client | undefined
  let over = false
  async function connect(): Promise<void> {
    const next = new Client(options(url))
    next.on('error', () => undefined)
    await next.connect()
    const lock = alone ? 'pg_try_advisory_lock' : 'pg_try_advisory_lock_shared'
    const { rows } = await next.query<{ held: boolean }>(`select ${lock}($1) as held`, [IN_USE])
    if (!rows[0]?.held) {
      await next.end()
      throw new TroubleError(
        503,
        alone
          ? 'An Ivent is using this database. Stop it first. Nothing was changed.'
          : 'A store is being carried into this database or out of it. Nothing was changed. Try again when that is done.',
      )
    }
    await next.query(`listen ${CHANNEL}`)
    next.on('notification', ({ payload = '' }) => {
      const [from, ...notice] = payload.split(' ')
      if (from !== OWN_NAME) notifyAll(notice.join(' '))
    })
    next.on('end', again)
    client = next
  }
  function again(): void {
    client = undefined
    if (over) return
    const tryAgain = () => void connect().then(() => notifyAll(undefined), again)
    setTimeout(tryAgain, AGAIN_MS).unref()
  }
  return {
    connect,
    onNotice: (listener: (notice: string | undefined) => void) => void listeners.push(listener),
    end: async () => {
      over = true
      await client?.end().catch(() => undefined)
    },
  }
}

/**
 * Opens a database on a server, once its place there is held.
 * @param alone whether no other Ivent may use it meanwhile
 */
export async function openPostgres(url: string, alone = false): Promise<ServerDriver> {
  const listener = listening(url, alone)
  await listener.connect()
  const pool = new Pool({ ...options(url), max: MOST_CONNECTIONS })
  const ignored = () => undefined
  // one that is lost while nobody uses it is no trouble: the next who asks gets another
  pool.on('error', ignored)
  const withClient = async <T>(work: (client: PoolClient) => Promise<T>): Promise<T> => {
    const client = await pool.connect()
    // a connection that is lost fails what is asked through it: the event says nothing more, and unheard it would end the process
    client.on('error', ignored)
    try {
      const done = await work(client)
      client.off('error', ignored)
      client.release()
      return done
    } catch (error) {
      // one that failed may be broken: it is not used again
      client.release(true)
      throw error
    }
  }
  return {
    query: <T extends DatabaseRow>(sql: string, params?: readonly unknown[]) => querying(pool)<T>(sql, params),
    transaction: (work) => withClient((client) => inTransaction(client, work)),
    script: async (sql) => {
      await pool.query(sql)
    },
    dump: () =>
      Readable.from(
        (async function* () {
          await Promise.resolve()
          yield* [] as Buffer[]
          throw new TroubleError(
            501,
            'This Ivent keeps its data on a PostgreSQL server: back that up with its own tools (pg_dump), or carry the store into a folder with  ./ivent move --from URL',
          )
        })(),
      ),
    close: async () => {
      await listener.end()
      await pool.end()
    },
    onNotice: listener.onNotice,
    notify: async (notice) => {
      await pool.query('select pg_notify($1, $2)', [CHANNEL, `${OWN_NAME} ${notice}`])
    },
    inTurn: (work) =>
      withClient(async (client) => {
        await client.query('select pg_advisory_lock($1)', [MIGRATING])
        try {
          return await work()
        } finally {
          await client.query('select pg_advisory_unlock($1)', [MIGRATING])
        }
      }),
  }
}
