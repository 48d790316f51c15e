/** Saving: changes made on a device are applied to the head, whatever others have done since. */
import { validateBuild, type Problem } from '@/plan/document/validate'
import type { Build, LogEntry } from '@/plan/document/schema'
import { difference, sameJson } from '@/plan/edit/diff'
import { applyEdits, type Change, type Edit } from '@/plan/edit/edit'
import { rebaseEdits, type Clash } from '@/plan/edit/merge'
import { NOT_PERMITTED, permits } from '@/plan/edit/rights'
import { addRevision, current } from './builds'
import { isId } from './ids'
import { PUT_OUT, type Asker } from './asker'
import { changing } from './changed'
import { rightsWithin } from './devices'
import { addEntries, entriesNamed, entriesOf, removeEntries } from './log'
import { readSnapshot, thinRevisions } from './revisions'
import { query, transaction, type Query } from './store'
import { TroubleError } from './trouble'
import { yieldToOthers } from './yield'

/** A change and the revision that it made. */
export type Numbered = Change & { readonly number: number }

export type Saved =
  | {
      readonly status: 'saved'
      readonly revision: number
      /** what others had done since `base`, so that the device can take it over */
      readonly others: readonly Numbered[]
    }
  /** the same thing was changed by others: `change` is set aside, what was sent before it is saved and in the head, nothing after it */
  | {
      readonly status: 'clash'
      readonly revision: number
      readonly others: readonly Numbered[]
      readonly change: string
      readonly clashes: readonly Clash[]
    }
  /** `change` does not fit the build: what was sent before it is saved and in the head, nothing of it or after it */
  | {
      readonly status: 'refused'
      readonly revision: number
      readonly others: readonly Numbered[]
      readonly change: string
      readonly reason: string
      readonly problems: readonly Problem[]
    }
  | { readonly status: 'missing' }

const isLogEdit = (e: Edit) => e.path[0] === 'log'
const logIds = (edits: readonly Edit[]) => [...new Set(edits.filter(isLogEdit).flatMap((e) => e.path.slice(1, 2)))]

/** Changes that made the revisions after `base`, oldest first. */
async function since(q: Query, build: string, base: number): Promise<Numbered[]> {
  return q<Numbered>(
    "select id, number, name, edits from change where build_id = $1 and state = 'saved' and number > $2 order by number, saved_at, id",
    [build, base],
  )
}

/** What was saved of a build after a revision, and the revision that it stands at now; undefined where there is no such build. */
export async function changesSince(
  build: string,
  base: number,
): Promise<{ readonly revision: number; readonly others: readonly Numbered[] } | undefined> {
  if (!isId(build)) return undefined
  const head = (
    await query<{ head: number }>('select head from build where id = $1 and removed_at is null and not arriving', [
      build,
    ])
  )[0]
  if (!head) return undefined
  // what was saved between the two questions is told by the next
  const others = (await since(query, build, base)).filter((c) => c.number <= head.head)
  return { revision: head.head, others }
}

type ChangeState = 'saved' | 'set-aside'
/** Which of these changes have come before, and what became of them. */
async function statesOf(q: Query, build: string, ids: readonly string[]): Promise<Map<string, ChangeState>> {
  const rows = await q<{ id: string; state: ChangeState }>(
    'select id, state from change where build_id = $1 and id = any($2)',
    [build, ids],
  )
  return new Map(rows.map((r) => [r.id, r.state]))
}

type BatchOutcome =
  | { readonly ok: true; readonly document: Build; readonly put: readonly LogEntry[]; readonly gone: readonly string[] }
  | { readonly ok: false; readonly reason: string; readonly problems: readonly Problem[] }

/** Edits made to the head, of whose log only the entries that they name are at hand. */
async function applied(q: Query, build: string, head: Build, edits: readonly Edit[]): Promise<BatchOutcome> {
  const ids = logIds(edits)
  const before = await entriesNamed(q, build, ids)
  const then = applyEdits<Build>({ ...head, log: before }, edits)
  if (!then.ok) return { ok: false, reason: then.reason, problems: [] }
  const valid = validateBuild(then.value)
  if (!valid.ok)
    return { ok: false, reason: 'The build would no longer be whole. Nothing was changed.', problems: valid.problems }
  const { log, ...document } = valid.build
  const put = log.filter((e) => !before.some((b) => sameJson(b, e)))
  const gone = before.filter((b) => !log.some((e) => e.id === b.id)).map((b) => b.id)
  return { ok: true, document: { ...document, log: [] }, put, gone }
}

const record = (
  q: Query,
  build: string,
  change: Change,
  { base, number, by }: { base: number; number: number | null; by: Asker },
) =>
  q(
    'insert into change (build_id, id, number, based_on, name, edits, state, made_by) values ($1, $2, $3, $4, $5, $6, $7, $8)',
    [
      build,
      change.id,
      number,
      base,
      change.name.slice(0, 200),
      JSON.stringify(change.edits),
      number === null ? 'set-aside' : 'saved',
      by?.name ?? null,
    ],
  )

type BuildHead = { readonly revision: number; readonly document: Build }
/** What became of one change: it is in the head, or why it is not. */
type ChangeResult =
  | { readonly status: 'saved'; readonly head: BuildHead }
  | { readonly status: 'clash'; readonly clashes: readonly Clash[] }
  | { readonly status: 'refused'; readonly reason: string; readonly problems: readonly Problem[] }

/** Puts one change on top of `head`; `theirs` are the edits that others have saved since it was made. */
async function saveOne(
  { q, build, head, by }: { readonly q: Query; readonly build: string; readonly head: BuildHead; readonly by: Asker },
  change: Change,
  theirs: readonly Edit[],
): Promise<ChangeResult> {
  const { rest, clashes } = rebaseEdits(change.edits, theirs)
  if (clashes.length > 0) return { status: 'clash', clashes }
  const then = await applied(q, build, head.document, rest)
  if (!then.ok) {
    // what others did has taken away what this one builds on: no less a clash for having other paths
    const last = theirs.at(-1)
    return last
      ? { status: 'clash', clashes: rest.slice(0, 1).map((mine) => ({ path: mine.path, mine, theirs: last })) }
      : { status: 'refused', reason: then.reason, problems: then.problems }
  }
  await removeEntries(q, build, then.gone)
  await addEntries(q, build, then.put)
  const revision = await addRevision(q, build, then.document, {
    basedOn: head.revision,
    note: change.name.slice(0, 200),
    by,
  })
  // as it was made: replaying the changes in order gives the head
  await record(q, build, { ...change, edits: rest }, { base: change.base ?? head.revision, number: revision, by })
  return { status: 'saved', head: { revision, document: then.document } }
}

/**
 * Saves changes on top of the head, in order, up to the first that clashes or is refused: those before it are saved and in the head, it
 * and those after it stay with the sender. They were made on a build as of revision `base`; others may have saved since. Different things
 * meet; the same thing changed by both is a clash: the change is set aside and both sides are told. A change whose id was saved before is
 * passed over. A device may make those that its rights allow, as long as it is in.
 */
export async function saveChanges(
  build: string,
  base: number,
  changes: readonly Change[],
  by: Asker = undefined,
): Promise<Saved> {
  if (!isId(build)) return { status: 'missing' }
  const save = async (q: Query) => {
    await mustBePermitted(q, by, changes)
    return saveInOrder({ q, build, by }, base, changes)
  }
  const moved = (saved: Saved) => saved.status !== 'missing' && saved.revision > base
  return changing(build, () => transaction(save), moved)
}

/** Refuses a device that may not make these changes, or was put out; asked where nothing can come between that and the save. */
async function mustBePermitted(q: Query, by: Asker, changes: readonly Change[]): Promise<void> {
  if (!by) return
  const rights = await rightsWithin(q, by.id)
  if (rights === undefined) throw new TroubleError(401, PUT_OUT)
  if (rights === 'all') return
  if (rights === 'look' || !changes.every((c) => permits(rights, c.edits)))
    throw new TroubleError(403, NOT_PERMITTED[rights])
}

async function saveInOrder(
  { q, build, by }: { readonly q: Query; readonly build: string; readonly by: Asker },
  base: number,
  changes: readonly Change[],
): Promise<Saved> {
  // locked first and read then: asked for at once, who has waited for another's save would find no row of the head that this has moved
  const locked = (
    await q<{ head: number }>('select head from build where id = $1 and removed_at is null for update', [build])
  )[0]
  const row =
    locked &&
    (
      await q<{ document: Build }>('select document from revision where build_id = $1 and number = $2', [
        build,
        locked.head,
      ])
    )[0]
  if (!locked || !row) return { status: 'missing' }
  const sent = new Set(changes.map((c) => c.id))
  const oldest = changes.reduce((least, c) => Math.min(least, c.base ?? base), base)
  const after = (await since(q, build, oldest)).filter((c) => !sent.has(c.id))
  const others = after.filter((c) => c.number > base)
  const states = await statesOf(q, build, [...sent])
  let head: BuildHead = { revision: locked.head, document: current(row.document) }
  let stopped: Exclude<Saved, { status: 'saved' | 'missing' }> | undefined
  for (const change of changes) {
    if (states.get(change.id) === 'saved') continue
    await yieldToOthers()
    const madeOn = change.base ?? base
    const theirs = after.flatMap((c) => (c.number > madeOn ? c.edits : []))
    const wasAside = states.get(change.id) === 'set-aside'
    // the same id again, now on top of what it clashed with
    if (wasAside) await q('delete from change where build_id = $1 and id = $2', [build, change.id])
    const step = await saveOne({ q, build, head, by }, change, theirs)
    if (step.status !== 'saved') {
      if (step.status === 'clash' || wasAside) await record(q, build, change, { base: madeOn, number: null, by })
      stopped = { ...step, revision: head.revision, others, change: change.id }
      break
    }
    states.set(change.id, 'saved')
    head = step.head
  }
  await q('update build set head = $2, name = $3 where id = $1', [build, head.revision, head.document.name])
  await thinRevisions(q, build)
  return stopped ?? { status: 'saved', revision: head.revision, others }
}

/** Keeps changes beside the build that its sender could not have saved; one that was saved or set aside before stays as it is. */
export async function setAside(
  build: string,
  base: number,
  changes: readonly Change[],
  by: Asker = undefined,
): Promise<boolean> {
  if (!isId(build)) return false
  return transaction(async (q) => {
    // beside the build it is no change of it: who ticks and logs may leave any change for the bench to decide on
    await mustBePermitted(q, by, [])
    if ((await q('select id from build where id = $1 for update', [build])).length === 0) return false
    const states = await statesOf(
      q,
      build,
      changes.map((c) => c.id),
    )
    for (const change of changes)
      if (!states.has(change.id)) await record(q, build, change, { base: change.base ?? base, number: null, by })
    return true
  })
}

/** A whole document in the place of the one at `base`: what it changes is saved as edits, so that it too meets what others did. */
export async function saveDocument(
  build: string,
  base: number,
  document: Build,
  { name, by }: { readonly name: string; readonly by?: Asker },
): Promise<Saved> {
  if (!isId(build)) return { status: 'missing' }
  const edits = await transaction(async (q) => {
    const before = await readSnapshot(q, build, base)
    if (!before) return undefined
    const others = (await since(q, build, base)).flatMap((c) => logIds(c.edits))
    // an entry that others have noted or struck since is theirs: this document does not know of it
    const log = (await entriesOf(q, build)).filter((e) => !others.includes(e.id))
    const mine = document.log.filter((e) => !others.includes(e.id))
    return difference<Build>({ ...before, log }, { ...document, log: mine })
  })
  if (!edits) return { status: 'missing' }
  return saveChanges(build, base, [{ id: crypto.randomUUID(), name, edits }], by)
}
