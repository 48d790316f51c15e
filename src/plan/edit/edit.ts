/**
 * The one form of change to a build, whoever makes it: a hand, a fix, an action, a fault tried, a draw of an estimate. Plain JSON, so that
 * it is also what is sent and stored; each has an inverse, which is what undo is.
 */
import { fail, ok, type Result } from '@/core/result'
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

/** A change as it is saved, undone and told: edits that belong together, under a name in words. Sent twice under one id it counts once. */
export type Change = {
  readonly id: string
  readonly name: string
  readonly edits: readonly Edit[]
  /** revision of the build on which it was made, where that is another than the one it is sent with */
  readonly base?: number
}

const POISON = new Set(['__proto__', 'constructor', 'prototype'])

export const isRecord = (x: unknown): x is Identified =>
  x !== null && typeof x === 'object' && typeof (x as { id?: unknown }).id === 'string'

/** What stands at a path; undefined where the way there ends. */
export function valueAt(target: unknown, path: Path): unknown {
  let at = target
  for (const name of path) {
    if (at === null || typeof at !== 'object') return undefined
    at = Array.isArray(at)
      ? (at as unknown[]).find((x) => isRecord(x) && x.id === name)
      : Object.hasOwn(at, name)
        ? (at as Record<string, unknown>)[name]
        : undefined
  }
  return at
}

/** What was copied since the first of several edits: nobody else has seen it yet, so the next of them may change it. */
type Own = Set<unknown>
function ownCopy<T extends object>(x: T, own: Own): T {
  if (own.has(x)) return x
  const copy = (Array.isArray(x) ? [...(x as unknown[])] : { ...x }) as T
  own.add(copy)
  return copy
}

/** Copies the way down to the place that the rest of `path` from `depth` on names, and lets `change` make the new value there of the old. */
function changedAt(
  target: unknown,
  path: Path,
  depth: number,
  own: Own,
  change: (holder: unknown, name: string) => unknown,
): unknown {
  const head = path[depth]!
  if (POISON.has(head)) throw new RangeError(`There is no field ${head}.`)
  if (depth === path.length - 1) return change(target, head)
  if (Array.isArray(target)) {
    const i = placeIn(target, head)
    const list = ownCopy(target as unknown[], own)
    list[i] = changedAt(list[i], path, depth + 1, own, change)
    return list
  }
  if (target === null || typeof target !== 'object' || !Object.hasOwn(target, head))
    throw new RangeError(`There is nothing called ${head} here.`)
  const now = ownCopy(target as Record<string, unknown>, own)
  now[head] = changedAt(now[head], path, depth + 1, own, change)
  return now
}

function placeIn(list: readonly unknown[], id: string): number {
  const i = list.findIndex((x) => isRecord(x) && x.id === id)
  if (i < 0) throw new RangeError(`${id} is not there any more.`)
  return i
}

function setIn(holder: unknown, name: string, value: unknown, own: Own): unknown {
  if (Array.isArray(holder)) {
    const i = placeIn(holder, name)
    if (!isRecord(value) || value.id !== name) throw new RangeError(`${name} is not there any more.`)
    const list = ownCopy(holder as unknown[], own)
    list[i] = value
    return list
  }
  if (holder === null || typeof holder !== 'object') throw new RangeError(`There is nothing to hold ${name} here.`)
  const now = ownCopy(holder as Record<string, unknown>, own)
  now[name] = value
  return now
}

function unsetIn(holder: unknown, name: string): unknown {
  if (holder === null || typeof holder !== 'object' || Array.isArray(holder))
    throw new RangeError(`There is nothing to take ${name} from.`)
  const { [name]: _gone, ...others } = holder as Record<string, unknown>
  return others
}

function insertIn(holder: unknown, name: string, value: Identified, before: string | null): unknown {
  if (!Array.isArray(holder)) throw new RangeError(`There is no list to put ${name} into.`)
  if (!isRecord(value) || value.id !== name) throw new RangeError(`What is put in must be called ${name}.`)
  const list = holder as Identified[]
  if (list.some((x) => x.id === name)) throw new RangeError(`There is a ${name} already.`)
  const i = before === null ? -1 : list.findIndex((x) => x.id === before)
  return i < 0 ? [...list, value] : [...list.slice(0, i), value, ...list.slice(i)]
}

function removeFrom(holder: unknown, name: string): unknown {
  const list = holder as Identified[]
  if (!Array.isArray(holder) || !list.some((x) => x.id === name)) throw new RangeError(`${name} is not there any more.`)
  return list.filter((x) => x.id !== name)
}

function applyOne<T>(target: T, edit: Edit, own: Own): T {
  if (edit.path.length === 0) throw new RangeError('An edit must say where.')
  return changedAt(target, edit.path, 0, own, (holder, name) => {
    switch (edit.op) {
      case 'set':
        return setIn(holder, name, edit.value, own)
      case 'unset':
        return unsetIn(holder, name)
      case 'insert':
        return insertIn(holder, name, edit.value, edit.before)
      case 'remove':
        return removeFrom(holder, name)
    }
  }) as T
}

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
 * @example applyEdits({ engine: { boreMm: 82 } }, [{ op: 'set', path: ['engine', 'boreMm'], value: 84 }]) // { ok: true, value: { engine: { boreMm: 84 } } }
 */
export function applyEdits<T>(target: T, edits: readonly Edit[]): Result<T> {
  try {
    const own: Own = new Set()
    return ok(edits.reduce((now, edit) => applyOne(now, edit, own), target))
  } catch (error) {
    return reasonOf(error)
  }
}

/** The edits that take `edits` back again, last first. */
export function invertEdits<T>(target: T, edits: readonly Edit[]): Result<readonly Edit[]> {
  try {
    let now = target
    const back: Edit[] = []
    for (const edit of edits) {
      back.unshift(inverseOf(now, edit))
      now = applyOne(now, edit, new Set())
    }
    return ok(back)
  } catch (error) {
    return reasonOf(error)
  }
}

export const activeVariant = (build: Build): Variant =>
  build.variants.find((v) => v.id === build.active) ?? build.variants[0]!
