/** Builds in the store: made, listed, read, taken out and put back. A build's head is its document; its log is rows of their own. */
import { migrate } from '@/plan/document/migrate'
import type { Build } from '@/plan/document/schema'
import type { Asker } from './asker'
import { changed, changing } from './changed'
import { isId } from './ids'
import { addEntries, entriesOf } from './log'
import { exportedFiles, insertFile, type StoredFiles } from './files'
import { databaseGeneration, query, transaction, type Query } from './store'
import { yieldToOthers } from './yield'

export type StoredBuild = {
  readonly id: string
  readonly revision: number
  readonly document: Build
  readonly savedAt: string
}
type BuildRow = { id: string; number: number; document: Build; saved_at: Date }

/** A document as it was saved, brought up to this version. What was saved was valid, so a step that fails leaves it as it is. */
export function current(document: Build): Build {
  const now = migrate(document as unknown as Record<string, unknown>)
  return now.ok ? (now.value as unknown as Build) : document
}
/** A document as the store keeps it: without its log. */
export const headOf = (document: Build): Build => ({ ...document, log: [] })

const HEADS =
  'select b.id, r.number, r.document, r.saved_at from build b join revision r on r.build_id = b.id and r.number = b.head where b.removed_at is null and not b.arriving'

async function stored(q: Query, r: BuildRow): Promise<StoredBuild> {
  const document = { ...current(r.document), log: await entriesOf(q, r.id) }
  return { id: r.id, revision: r.number, document, savedAt: r.saved_at.toISOString() }
}

export async function listBuilds(): Promise<StoredBuild[]> {
  const rows = await query<BuildRow>(`${HEADS} order by b.created_at, b.id`)
  return Promise.all(rows.map((r) => stored(query, r)))
}

/** A build without its document: what a list needs. */
export type ListedHead = {
  readonly id: string
  readonly revision: number
  readonly name: string
  readonly savedAt: string
}

/** Builds in the garage, oldest first; their documents are not read, so that a damaged one hides no other. */
export async function listHeads(): Promise<ListedHead[]> {
  const rows = await query<{ id: string; revision: number; name: string; saved_at: Date }>(
    'select b.id, b.head as revision, b.name, r.saved_at from build b join revision r on r.build_id = b.id and r.number = b.head where b.removed_at is null and not b.arriving order by b.created_at, b.id',
  )
  return rows.map(({ saved_at, ...head }) => ({ ...head, savedAt: saved_at.toISOString() }))
}

export type RemovedBuild = { readonly id: string; readonly name: string; readonly removedAt: string }
/** Builds taken out of the garage, the last one first. They are kept, and can be put back. */
export async function listRemoved(): Promise<RemovedBuild[]> {
  const rows = await query<{ id: string; name: string; removed_at: Date }>(
    'select id, name, removed_at from build where removed_at is not null order by removed_at desc limit 200',
  )
  return rows.map((r) => ({ id: r.id, name: r.name, removedAt: r.removed_at.toISOString() }))
}

/** Builds read last, newest last: what a revision holds never changes, and every change of a log makes one. */
const read = new Map<string, StoredBuild>()
const MOST_READ = 50

export async function readBuild(id: string): Promise<StoredBuild | undefined> {
  if (!isId(id)) return undefined
  const head = (
    await query<{ head: number }>('select head from build where id = $1 and removed_at is null and not arriving', [id])
  )[0]
  if (!head) return undefined
  const key = `${databaseGeneration()} ${id}`
  const known = read.get(key)
  if (known?.revision === head.head) return known
  const row = (await query<BuildRow>(`${HEADS} and b.id = $1`, [id]))[0]
  if (!row) return undefined
  const found = await stored(query, row)
  read.delete(key)
  read.set(key, found)
  if (read.size > MOST_READ) read.delete(read.keys().next().value!)
  return found
}

/** A snapshot of the document as the next revision; returns its number. */
export async function addRevision(
  q: Query,
  id: string,
  document: Build,
  { basedOn, note, by }: { readonly basedOn: number | null; readonly note: string; readonly by?: Asker },
): Promise<number> {
  const rows = await q<{ number: number }>(
    "insert into revision (build_id, number, based_on, document, state, note, made_by) select $1, coalesce(max(number), 0) + 1, $2, $3, 'saved', $4, $5 from revision where build_id = $1 returning number",
    [id, basedOn, JSON.stringify(headOf(document)), note, by?.name ?? null],
  )
  return rows[0]!.number
}

/** Makes a build of a valid document; its log becomes rows. Arriving, it is not there yet. */
async function insertBuild(document: Build, note: string, arriving: boolean): Promise<StoredBuild> {
  return transaction(async (q) => {
    const rows = await q<{ id: string }>('insert into build (name, head, arriving) values ($1, 1, $2) returning id', [
      document.name,
      arriving,
    ])
    const { id } = rows[0]!
    const revision = await addRevision(q, id, document, { basedOn: null, note })
    await addEntries(q, id, document.log)
    return { id, revision, document, savedAt: new Date().toISOString() }
  })
}

/**
 * Makes a build of a valid document and the files that come with it. Each of those is written on its own, since a transaction keeps all
 * others waiting; the build is there when all of them are, or not at all.
 */
export async function createBuild(document: Build, note = 'new', files?: StoredFiles): Promise<StoredBuild> {
  const all = [...(files?.recordings ?? []), ...(files?.attachments ?? [])]
  const made = await insertBuild(document, note, all.length > 0)
  if (all.length > 0) {
    try {
      for (const file of all) {
        await insertFile(query, made.id, file)
        await yieldToOthers()
      }
      await query('update build set arriving = false where id = $1', [made.id])
    } catch (error) {
      await removeArriving(made.id).catch(() => undefined)
      throw error
    }
  }
  changed(made.id)
  return made
}

/** Takes away what was being brought in when Ivent was stopped, or one of them that failed. */
export async function removeArriving(id?: string): Promise<void> {
  await transaction(async (q) => {
    const rows = await q<{ id: string }>('select id from build where arriving and ($1::uuid is null or id = $1)', [
      id ?? null,
    ])
    const ids = rows.map((r) => r.id)
    for (const table of ['recording', 'attachment', 'log_entry', 'revision'])
      await q(`delete from ${table} where build_id = any($1)`, [ids])
    await q('delete from build where id = any($1)', [ids])
  })
}

/**
 * The build with everything that belongs to it, as one file holds it, in pieces of its JSON; undefined where there is none. Its document and
 * log are of one moment.
 */
export async function exportBuild(
  id: string,
): Promise<{ readonly name: string; readonly pieces: AsyncGenerator<string> } | undefined> {
  const found = await readBuild(id)
  if (!found) return undefined
  const { document } = found
  const pieces = async function* () {
    yield JSON.stringify(document, null, 1).replace(/\n\}$/, '')
    yield* exportedFiles(query, id)
    yield '\n}\n'
  }
  return { name: document.name, pieces: pieces() }
}

/** Takes a build out of the garage, or puts it back; its revisions stay. */
export async function removeBuild(id: string, removed: boolean): Promise<boolean> {
  if (!isId(id)) return false
  const remove = () =>
    query('update build set removed_at = case when $2 then now() end where id = $1 returning id', [id, removed])
  return (await changing(id, remove, (rows) => rows.length > 0)).length > 0
}
