/** A build's log as rows. */
import type { LogEntry } from '@/plan/document/schema'
import { isSoundEntry } from '@/plan/document/sound-entry'
import type { Query } from './store'

type EntryRow = { entry: LogEntry }

/**
 * Every entry that is sound, oldest first: one that earlier versions let in (2026-02-31) stays in its row and makes no
 * page unreachable.
 */
export async function entriesOf(q: Query, build: string): Promise<LogEntry[]> {
  const rows = await q<EntryRow>('select entry from log_entry where build_id = $1 order by date, odometer_km, id', [
    build,
  ])
  return rows.map((r) => r.entry).filter(isSoundEntry)
}

/** The entries of these ids, as far as there are any. */
export async function entriesNamed(q: Query, build: string, ids: readonly string[]): Promise<LogEntry[]> {
  if (ids.length === 0) return []
  const rows = await q<EntryRow>('select entry from log_entry where build_id = $1 and id = any($2)', [build, [...ids]])
  return rows.map((r) => r.entry)
}

export type LogPage = {
  readonly entries: readonly LogEntry[]
  readonly total: number
  readonly next: string | undefined
}

/** Newest first, `limit` at a time; `from` is the `next` of the page before: how many entries have been read. */
export async function logPage(q: Query, build: string, limit: number, from = 0): Promise<LogPage> {
  const [rows, count] = await Promise.all([
    q<EntryRow>(
      'select entry from log_entry where build_id = $1 order by date desc, odometer_km desc, id desc limit $2 offset $3',
      [build, limit, from],
    ),
    q<{ n: number }>('select count(*)::int as n from log_entry where build_id = $1', [build]),
  ])
  const total = count[0]!.n
  const read = from + rows.length
  return { entries: rows.map((r) => r.entry), total, next: read < total ? String(read) : undefined }
}

/** Many entries in one statement, each replacing one of the same id. */
export async function addEntries(q: Query, build: string, entries: readonly LogEntry[]): Promise<void> {
  if (entries.length === 0) return
  await q(
    `insert into log_entry (build_id, id, date, odometer_km, entry)
     select $1, e ->> 'id', e ->> 'date', (e ->> 'odometerKm')::double precision, e from json_array_elements($2::json) as e
     on conflict (build_id, id) do update set date = excluded.date, odometer_km = excluded.odometer_km, entry = excluded.entry`,
    [build, JSON.stringify(entries)],
  )
}

export async function removeEntries(q: Query, build: string, ids: readonly string[]): Promise<void> {
  if (ids.length > 0) await q('delete from log_entry where build_id = $1 and id = any($2)', [build, [...ids]])
}
