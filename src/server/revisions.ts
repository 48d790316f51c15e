/** Earlier versions of a build: snapshots, thinned with age, marked ones for ever. */
import type { Edit } from '@/plan/edit/edit'
import type { Build } from '@/plan/document/schema'
import { current } from './builds'
import { isId } from './ids'
import { query, type Query } from './store'

export type RevisionNote = {
  readonly number: number
  readonly savedAt: string
  readonly note: string
  readonly marked: boolean
  /** the device that made it; undefined for the bench */
  readonly madeBy?: string | undefined
  /** versions that stood between this one and the older one below it, and were thinned out */
  readonly thinned: number
}
/** A change that clashed and was set aside: nothing of it is lost. */
export type SetAside = {
  readonly id: string
  readonly name: string
  readonly savedAt: string
  readonly madeBy?: string | undefined
  readonly edits: readonly Edit[]
}

type Row = { number: number; saved_at: Date; note: string; marked: boolean; made_by: string | null }

export async function listRevisions(build: string): Promise<RevisionNote[]> {
  if (!isId(build)) return []
  const rows = await query<Row>(
    "select number, saved_at, note, marked, made_by from revision where build_id = $1 and state = 'saved' order by number desc limit 1000",
    [build],
  )
  return rows.map((r, i) => ({
    number: r.number,
    savedAt: r.saved_at.toISOString(),
    note: r.note,
    marked: r.marked,
    madeBy: r.made_by ?? undefined,
    thinned: r.number - (rows[i + 1]?.number ?? (i === rows.length - 1 ? r.number - 1 : 0)) - 1,
  }))
}

export async function listSetAside(build: string): Promise<SetAside[]> {
  if (!isId(build)) return []
  const rows = await query<{
    id: string
    name: string
    saved_at: Date
    edits: readonly Edit[]
    made_by: string | null
  }>(
    "select id, name, saved_at, edits, made_by from change where build_id = $1 and state = 'set-aside' order by saved_at desc limit 100",
    [build],
  )
  return rows.map((r) => ({
    id: r.id,
    name: r.name,
    savedAt: r.saved_at.toISOString(),
    madeBy: r.made_by ?? undefined,
    edits: r.edits,
  }))
}

const MOST_INTEGER = 2 ** 31 - 1
const isNumber = (n: number) => Number.isInteger(n) && n >= 1 && n <= MOST_INTEGER

/** A version as it was saved, brought up to this format; without its log, which is what happened and does not go back. */
export async function readRevision(build: string, number: number): Promise<Build | undefined> {
  if (!isId(build) || !isNumber(number)) return undefined
  const row = (
    await query<{ document: Build }>('select document from revision where build_id = $1 and number = $2', [
      build,
      number,
    ])
  )[0]
  return row && { ...current(row.document), log: [] }
}

/** The newest snapshot that is no newer than `number`: that one itself unless it was thinned out. */
export async function readSnapshot(q: Query, build: string, number: number): Promise<Build | undefined> {
  if (!isNumber(number)) return undefined
  const row = (
    await q<{ document: Build }>(
      "select document from revision where build_id = $1 and number <= $2 and state = 'saved' order by number desc limit 1",
      [build, number],
    )
  )[0]
  return row && { ...current(row.document), log: [] }
}

/** Keeps a version for ever, or lets it age again. */
export async function markRevision(build: string, number: number, marked: boolean): Promise<boolean> {
  if (!isId(build) || !isNumber(number)) return false
  const rows = await query('update revision set marked = $3 where build_id = $1 and number = $2 returning number', [
    build,
    number,
    marked,
  ])
  return rows.length > 0
}

/**
 * Thins snapshots: everything of the last day stays, then the last of each hour for a week, of each day for two months, of each month
 * after. The head, the first and marked ones always stay. Changes are not touched.
 */
export async function thinRevisions(q: Query, build: string): Promise<void> {
  await q(
    `delete from revision r using build b
     where r.build_id = $1 and b.id = $1 and r.number <> b.head and r.number > 1 and not r.marked
       and r.saved_at < now() - interval '1 day'
       and exists (
         select 1 from revision later
         where later.build_id = r.build_id and later.number > r.number
           and date_trunc(case when r.saved_at > now() - interval '7 days' then 'hour'
                               when r.saved_at > now() - interval '60 days' then 'day' else 'month' end, later.saved_at)
             = date_trunc(case when r.saved_at > now() - interval '7 days' then 'hour'
                               when r.saved_at > now() - interval '60 days' then 'day' else 'month' end, r.saved_at))`,
    [build],
  )
}
