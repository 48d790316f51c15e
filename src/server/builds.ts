/** Builds in the store: list, read, save as revisions, set aside, bring back. */
import { migrate } from '@/plan/document/migrate'
import type { Build } from '@/plan/document/schema'
import { query, transaction, type Query } from './store'

export type StoredBuild = {
  readonly id: string
  readonly revision: number
  readonly document: Build
  readonly savedAt: string
}
export type RevisionNote = {
  readonly number: number
  readonly basedOn: number | null
  readonly savedAt: string
  readonly state: 'saved' | 'set-aside'
  readonly note: string
}
export type Saved =
  | { readonly status: 'saved'; readonly revision: number }
  /** another save came first: what was sent is kept as the revision `setAside`, the head is `theirs` */
  | { readonly status: 'stale'; readonly theirs: number; readonly setAside: number }
  | { readonly status: 'missing' }

type BuildRow = { id: string; number: number; document: Build; saved_at: Date }
const UUID = /^[\da-f]{8}-([\da-f]{4}-){3}[\da-f]{12}$/
const known = (id: string) => UUID.test(id)
/** A document as it was saved, brought up to this version. What was saved was valid, so a step that fails leaves it as it is. */
const current = (document: Build): Build => {
  const now = migrate(document as unknown as Record<string, unknown>)
  return now.ok ? (now.value as unknown as Build) : document
}
const stored = (r: BuildRow): StoredBuild => ({
  id: r.id,
  revision: r.number,
  document: current(r.document),
  savedAt: r.saved_at.toISOString(),
})

const HEADS =
  'select b.id, r.number, r.document, r.saved_at from build b join revision r on r.build_id = b.id and r.number = b.head where b.removed_at is null'

export async function listBuilds(): Promise<StoredBuild[]> {
  return (await query<BuildRow>(`${HEADS} order by b.created_at, b.id`)).map(stored)
}

export async function readBuild(id: string): Promise<StoredBuild | undefined> {
  if (!known(id)) return undefined
  const row = (await query<BuildRow>(`${HEADS} and b.id = $1`, [id]))[0]
  return row && stored(row)
}

async function addRevision(
  q: Query,
  id: string,
  basedOn: number | null,
  document: Build,
  state: 'saved' | 'set-aside',
  note: string,
): Promise<number> {
  const rows = await q<{ number: number }>(
    'insert into revision (build_id, number, based_on, document, state, note) select $1, coalesce(max(number), 0) + 1, $2, $3, $4, $5 from revision where build_id = $1 returning number',
    [id, basedOn, JSON.stringify(document), state, note],
  )
  return rows[0]!.number
}

export async function createBuild(document: Build, note = 'new'): Promise<StoredBuild> {
  return transaction(async (q) => {
    const id = (
      await q<{ id: string }>('insert into build (name, head) values ($1, 1) returning id', [document.name])
    )[0]!.id
    const revision = await addRevision(q, id, null, document, 'saved', note)
    return { id, revision, document, savedAt: new Date().toISOString() }
  })
}

/** Saves on top of `base`. If the head has moved on, the document is set aside as a revision of its own and the head stays. */
export async function saveBuild(id: string, base: number, document: Build, note = ''): Promise<Saved> {
  if (!known(id)) return { status: 'missing' }
  return transaction(async (q): Promise<Saved> => {
    const head = (
      await q<{ head: number }>('select head from build where id = $1 and removed_at is null for update', [id])
    )[0]?.head
    if (head === undefined) return { status: 'missing' }
    if (head !== base)
      return { status: 'stale', theirs: head, setAside: await addRevision(q, id, base, document, 'set-aside', note) }
    const revision = await addRevision(q, id, base, document, 'saved', note)
    await q('update build set head = $2, name = $3 where id = $1', [id, revision, document.name])
    return { status: 'saved', revision }
  })
}

export async function listRevisions(id: string): Promise<RevisionNote[]> {
  if (!known(id)) return []
  const rows = await query<{
    number: number
    based_on: number | null
    saved_at: Date
    state: 'saved' | 'set-aside'
    note: string
  }>(
    'select number, based_on, saved_at, state, note from revision where build_id = $1 order by number desc limit 500',
    [id],
  )
  return rows.map((r) => ({
    number: r.number,
    basedOn: r.based_on,
    savedAt: r.saved_at.toISOString(),
    state: r.state,
    note: r.note,
  }))
}

export async function readRevision(id: string, number: number): Promise<Build | undefined> {
  if (!known(id) || !Number.isInteger(number) || number < 1 || number > 2 ** 31 - 1) return undefined
  const row = (
    await query<{ document: Build }>('select document from revision where build_id = $1 and number = $2', [id, number])
  )[0]
  return row && current(row.document)
}

/** Takes a build out of the garage, or puts it back; its revisions stay. */
export async function removeBuild(id: string, removed: boolean): Promise<boolean> {
  if (!known(id)) return false
  return (
    (await query('update build set removed_at = case when $2 then now() end where id = $1 returning id', [id, removed]))
      .length > 0
  )
}
