/**
 * Copies all rows of one database into an empty other one, embedded or a server's. Values go as PostgreSQL writes them in text, so that
 * nothing is rounded on the way; both sides are then compared by count and hash.
 */
import type { Driver, Query } from './driver'
import { TroubleError } from './trouble'

type Table = { readonly name: string; readonly columns: readonly Column[]; readonly key: string }
type Column = { readonly name: string; readonly type: string }
/** What a table holds: how many rows, and a hash over all of them in any order. */
type Content = { readonly rows: number; readonly hash: string }
export type CopiedTable = { readonly table: string; readonly rows: number }

/** Rows go together up to so many and about so many bytes. */
const [MOST_ROWS, MOST_BYTES] = [500, 4_000_000]

const quoted = (name: string) => `"${name.replaceAll('"', '""')}"`
/** In every session the same text for the same value. */
const ONE_TEXT = ["set local time zone 'UTC'", 'set local extra_float_digits = 1', "set local bytea_output = 'hex'"]

/** The tables, each after those that it refers to; what was migrated is each database's own matter. */
async function tablesOf(query: Query): Promise<readonly Table[]> {
  const columns = await query<{ table: string; name: string; type: string; in_key: boolean }>(`
    select c.relname as table, a.attname as name, format_type(a.atttypid, a.atttypmod) as type,
      coalesce(a.attnum = any (k.conkey), false) as in_key
    from pg_class c
    join pg_namespace n on n.oid = c.relnamespace and n.nspname = 'public'
    join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
    left join pg_constraint k on k.conrelid = c.oid and k.contype = 'p'
    where c.relkind = 'r' and c.relname <> 'migration'
    order by c.relname, a.attnum`)
  const references = await query<{ table: string; to: string }>(`
    select c.relname as table, t.relname as to
    from pg_constraint k join pg_class c on c.oid = k.conrelid join pg_class t on t.oid = k.confrelid
    where k.contype = 'f' and c.oid <> t.oid`)
  const names = [...new Set(columns.map((c) => c.table))]
  const ordered: string[] = []
  while (ordered.length < names.length) {
    const next = names.filter(
      (n) => !ordered.includes(n) && references.every((r) => r.table !== n || ordered.includes(r.to)),
    )
    if (next.length === 0) throw new Error('tables refer to each other in a circle')
    ordered.push(...next)
  }
  return ordered.map((name) => {
    const own = columns.filter((c) => c.table === name)
    return {
      name,
      columns: own.map((c) => ({ name: c.name, type: c.type })),
      key: own
        .filter((c) => c.in_key)
        .map((c) => quoted(c.name))
        .join(', '),
    }
  })
}

async function contentOf(query: Query, table: Table): Promise<Content> {
  const [content] = await query<Content>(`
    select count(*)::int as rows, coalesce(md5(string_agg(h, '' order by h collate "C")), '') as hash
    from (select md5(t::text) as h from ${quoted(table.name)} t) as hashes`)
  return content!
}

/** Where rows part into pieces of which each fits in memory: offset and number of rows. */
async function piecesOf(query: Query, table: Table): Promise<readonly (readonly [offset: number, rows: number])[]> {
  const sizes = await query<{ bytes: number }>(
    `select octet_length(t::text) as bytes from ${quoted(table.name)} t order by ${table.key}`,
  )
  const pieces: [number, number][] = []
  let bytes = Infinity
  for (const [at, size] of sizes.entries()) {
    const last = pieces.at(-1)
    if (!last || last[1] >= MOST_ROWS || bytes + size.bytes > MOST_BYTES) {
      pieces.push([at, 1])
      bytes = size.bytes
    } else {
      last[1]++
      bytes += size.bytes
    }
  }
  return pieces
}

async function copyTable(from: Query, to: Query, table: Table): Promise<CopiedTable> {
  const [name, columns] = [quoted(table.name), table.columns.map((c) => quoted(c.name))]
  const read = `select ${columns.map((c) => `${c}::text`).join(', ')} from ${name} order by ${table.key} limit $1 offset $2`
  const values = table.columns.map((c) => `(e.value ->> '${c.name.replaceAll("'", "''")}')::${c.type}`)
  const write = `insert into ${name} (${columns.join(', ')}) select ${values.join(', ')} from json_array_elements($1::json) as e`
  for (const [offset, rows] of await piecesOf(from, table))
    await to(write, [JSON.stringify(await from(read, [rows, offset]))])
  const [there, here] = [await contentOf(from, table), await contentOf(to, table)]
  if (there.rows !== here.rows || there.hash !== here.hash)
    throw new Error(`${table.name} did not arrive whole: ${there.rows} rows left, ${here.rows} came`)
  return { table: table.name, rows: here.rows }
}

/** Which scripts made a database; none where no Ivent ever used it. */
async function migrationsOf(query: Query): Promise<readonly string[]> {
  const [found] = await query<{ there: boolean }>("select to_regclass('public.migration') is not null as there")
  if (!found?.there) return []
  return (await query<{ name: string }>('select name from migration order by name')).map((r) => r.name)
}

async function mustMatch(from: Query, to: Query): Promise<void> {
  const [there, here] = [await migrationsOf(from), await migrationsOf(to)]
  if (there.length === 0) throw new TroubleError(404, 'There is no Ivent store to carry over. Nothing was changed.')
  if (there.join() !== here.join())
    throw new TroubleError(
      409,
      'The store was last used by another version of Ivent. Nothing was changed. Start this one on it once, stop it, and carry it over then.',
    )
}
async function mustBeEmpty(to: Query, tables: readonly Table[]): Promise<void> {
  for (const table of tables)
    if ((await contentOf(to, table)).rows > 0)
      throw new TroubleError(
        409,
        'There is an Ivent store in that database already. Nothing was changed. Give one that is empty.',
      )
}

/**
 * Copies all of `from` into `to`, or nothing. Nobody else writes to either; `to` is migrated and holds no rows.
 * @returns what was copied, table by table
 */
export const copyDatabase = (
  from: Pick<Driver, 'transaction'>,
  to: Pick<Driver, 'transaction'>,
): Promise<readonly CopiedTable[]> =>
  from.transaction((read) =>
    to.transaction(async (write) => {
      for (const query of [read, write]) for (const setting of ONE_TEXT) await query(setting)
      await mustMatch(read, write)
      const tables = await tablesOf(read)
      await mustBeEmpty(write, tables)
      const copied: CopiedTable[] = []
      for (const table of tables) copied.push(await copyTable(read, write, table))
      return copied
    }),
  )
