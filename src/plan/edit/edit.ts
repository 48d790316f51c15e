/**
 * The one form of change to a build, whoever makes it: a hand, a fix, an action, a fault tried, a draw of an estimate. Plain JSON, so that
 * it is also what is sent and stored; each has an inverse, which is what undo is.
 */
import { fail, ok, type Result } from '@/core/result'
import { isSharedName } from '../document/bounds'
import type { Build, Variant } from '../document/schema'

/** Names of fields, and ids of records in a list: `variants, a, lines, suction, boreMm`. Lists without ids (bends, points) are one value. */
export type Path = readonly string[]

export type Edit =
  /** sets a field, or a whole record */
  | { readonly op: 'set'; readonly path: Path; readonly value: unknown }
  /** removes an optional field */
  | { readonly op: 'unset'; readonly path: Path }
  /** puts a record into the list that `path` without its last name leads to, ahead of the record `before`; null is the end */
  | { readonly op: 'insert'; readonly path: Path; readonly value: Identified; readonly before: string | null }
  /** takes a record out of its list */
  | { readonly op: 'remove'; readonly path: Path }

export type Identified = { readonly id: string }

/** A change as it is saved, undone and shown: edits that belong together, under a name in words. Sent twice under one id it counts once. */
export type Change = {
  readonly id: string
  readonly name: string
  readonly edits: readonly Edit[]
  /** revision of the build on which it was made, where that is another than the one it is sent with */
  readonly base?: number
}

/** A name that is no way into what all objects share. */
function sound(name: string): string {
  if (isSharedName(name)) throw new RangeError(`There is no field ${name}.`)
  return name
}

/** Whether a value is an item of a list that edits address by id. */
export const isIdentified = (x: unknown): x is Identified =>
  x !== null && typeof x === 'object' && typeof (x as { id?: unknown }).id === 'string'

/** What stands at a path; undefined where the way there ends. */
export function valueAt(target: unknown, path: Path): unknown {
  let at = target
  for (const name of path) {
    if (at === null || typeof at !== 'object') return undefined
    at = Array.isArray(at)
      ? (at as unknown[]).find((x) => isIdentified(x) && x.id === name)
      : Object.hasOwn(at, name)
        ? (at as Record<string, unknown>)[name]
        : undefined
  }
  return at
}

/** What holds fields by name or records by id. */
type Container = unknown[] | Record<string, unknown>
/** Edits being made to one document: what they touch is copied first, so that nobody who holds the document sees a change. */
type DraftWriter<T> = {
  document: T
  /** the way of the last edit, and copies of what holds each name of it: the next edit most often starts along it, and copies only the rest */
  way: Path
  /** as many of them as that edit had names */
  readonly holders: Container[]
  depth: number
}

function copyOf(x: unknown, name: string): Container {
  if (x === null || typeof x !== 'object') throw new RangeError(`There is nothing to hold ${name} here.`)
  return Array.isArray(x) ? (x as unknown[]).slice() : { ...(x as Record<string, unknown>) }
}

function placeIn(list: readonly unknown[], id: string): number {
  for (let i = 0; i < list.length; i++) if ((list[i] as Identified | null)?.id === id) return i
  throw new RangeError(`${id} is not there any more.`)
}

/** What holds the last name of `path`, for this hand alone. */
function containerOf<T>(hand: DraftWriter<T>, path: Path): Container {
  const { way, holders } = hand
  let depth = 0
  while (depth + 1 < hand.depth && depth + 1 < path.length && way[depth] === path[depth]) depth++
  if (hand.depth === 0) {
    holders[0] = copyOf(hand.document, path[0]!)
    hand.document = holders[0] as T
  }
  hand.way = path
  hand.depth = path.length
  for (; depth < path.length - 1; depth++) {
    const [holder, name] = [holders[depth]!, sound(path[depth]!)]
    if (Array.isArray(holder)) {
      const i = placeIn(holder, name)
      holders[depth + 1] = holder[i] = copyOf(holder[i], path[depth + 1]!)
    } else {
      if (!Object.hasOwn(holder, name)) throw new RangeError(`There is nothing called ${name} here.`)
      holders[depth + 1] = holder[name] = copyOf(holder[name], path[depth + 1]!)
    }
  }
  return holders[path.length - 1]!
}

function setIn(holder: Container, name: string, value: unknown): void {
  if (!Array.isArray(holder)) {
    holder[name] = value
    return
  }
  const i = placeIn(holder, name)
  if (!isIdentified(value) || value.id !== name) throw new RangeError(`${name} is not there any more.`)
  holder[i] = value
}

function unsetIn(holder: Container, name: string): void {
  if (Array.isArray(holder)) throw new RangeError(`There is nothing to take ${name} from.`)
  delete holder[name]
}

function insertIn(holder: Container, name: string, value: Identified, before: string | null): void {
  if (!Array.isArray(holder)) throw new RangeError(`There is no list to put ${name} into.`)
  if (!isIdentified(value) || value.id !== name) throw new RangeError(`What is put in must be called ${name}.`)
  const list = holder as Identified[]
  if (list.some((x) => x.id === name)) throw new RangeError(`There is a ${name} already.`)
  const i = before === null ? -1 : list.findIndex((x) => x.id === before)
  list.splice(i < 0 ? list.length : i, 0, value)
}

function removeFrom(holder: Container, name: string): void {
  if (!Array.isArray(holder)) throw new RangeError(`${name} is not there any more.`)
  holder.splice(placeIn(holder, name), 1)
}

function applyOne<T>(hand: DraftWriter<T>, edit: Edit): void {
  const { path } = edit
  if (path.length === 0) throw new RangeError('An edit must say where.')
  const holder = containerOf(hand, path)
  const name = sound(path[path.length - 1]!)
  switch (edit.op) {
    case 'set':
      return setIn(holder, name, edit.value)
    case 'unset':
      return unsetIn(holder, name)
    case 'insert':
      return insertIn(holder, name, edit.value, edit.before)
    case 'remove':
      return removeFrom(holder, name)
  }
}
const writerOf = <T>(document: T): DraftWriter<T> => ({ document, way: [], holders: [], depth: 0 })

/** The edit that takes `edit` back from a document to which it has not yet been made. */
function inverseOf(target: unknown, edit: Edit): Edit {
  const { path } = edit
  if (edit.op === 'insert') return { op: 'remove', path }
  const before = valueAt(target, path)
  if (edit.op !== 'remove') return before === undefined ? { op: 'unset', path } : { op: 'set', path, value: before }
  const list = valueAt(target, path.slice(0, -1)) as Identified[]
  const i = list.findIndex((x) => x.id === path.at(-1))
  return { op: 'insert', path, value: before as Identified, before: list[i + 1]?.id ?? null }
}

const reasonOf = (error: unknown) =>
  fail(error instanceof RangeError ? error.message : 'The edit does not fit this build.')

/**
 * Makes edits in order. What does not fit fails with a reason and changes nothing; the document is never changed in place.
 *
 * @example
 * import { applyEdits } from '@/plan/edit/edit'
 *
 * console.log(applyEdits({ engine: { boreMm: 82 } }, [{ op: 'set', path: ['engine', 'boreMm'], value: 84 }])) // { ok: true, value: { engine: { boreMm: 84 } } }
 */
export function applyEdits<T>(target: T, edits: readonly Edit[]): Result<T> {
  try {
    const hand = writerOf(target)
    for (const edit of edits) applyOne(hand, edit)
    return ok(hand.document)
  } catch (error) {
    return reasonOf(error)
  }
}

/** The edits that take `edits` back again, last first. */
export function invertEdits<T>(target: T, edits: readonly Edit[]): Result<readonly Edit[]> {
  try {
    const hand = writerOf(target)
    const back: Edit[] = []
    for (const edit of edits) {
      back.unshift(inverseOf(hand.document, edit))
      applyOne(hand, edit)
    }
    return ok(back)
  } catch (error) {
    return reasonOf(error)
  }
}

/**
 * The plan that is shown. A valid build has it; throws otherwise.
 *
 * @example
 * import { activeVariant } from '@/plan/edit/edit'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(activeVariant(build).school) // 'vacuum-side-can'
 */
export const activeVariant = (build: Build): Variant =>
  build.variants.find((v) => v.id === build.active) ?? build.variants[0]!
