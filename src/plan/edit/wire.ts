/** Changes as they come over the wire: whether they are what they claim to be, before anything is done with them. */
import type { Change, Edit } from './edit'

const MOST_CHANGES = 500
/** A log of years is read in as one change. */
const MOST_EDITS = 10_500
const MOST_NAMES = 12
const MOST_LENGTH = 80
const UUID = /^[\da-f]{8}-([\da-f]{4}-){3}[\da-f]{12}$/

/**
 * A number that a revision can have.
 *
 * @example
 * import { isRevision } from '@/plan/edit/wire'
 *
 * console.log([isRevision(3), isRevision(0)]) // [ true, false ]
 */
export const isRevision = (n: unknown): n is number =>
  typeof n === 'number' && Number.isInteger(n) && n >= 1 && n < 2 ** 31

const isPath = (p: unknown): p is readonly string[] =>
  Array.isArray(p) &&
  p.length > 0 &&
  p.length <= MOST_NAMES &&
  p.every((n) => typeof n === 'string' && n.length > 0 && n.length <= MOST_LENGTH)

function isEdit(e: unknown): e is Edit {
  if (e === null || typeof e !== 'object') return false
  const { op, path, value, before } = e as Record<string, unknown>
  if (!isPath(path)) return false
  if (op === 'unset' || op === 'remove') return true
  if (op === 'set') return value !== undefined
  return (
    op === 'insert' &&
    value !== null &&
    typeof value === 'object' &&
    (value as { id?: unknown }).id === path.at(-1) &&
    (before === null || typeof before === 'string')
  )
}

/** Changes as plain data, or what is wrong with them. */
export function readChanges(input: unknown): { ok: true; changes: readonly Change[] } | { ok: false; reason: string } {
  const no = (reason: string) => ({ ok: false, reason }) as const
  if (!Array.isArray(input)) return no('changes must be a list')
  if (input.length > MOST_CHANGES) return no(`more than ${MOST_CHANGES} changes at once`)
  let edits = 0
  for (const [i, c] of input.entries()) {
    const { id, name, edits: list, base } = (c ?? {}) as Record<string, unknown>
    if (typeof id !== 'string' || !UUID.test(id)) return no(`change ${i + 1} has no id`)
    if (base !== undefined && !isRevision(base)) return no(`change ${i + 1} is based on no revision`)
    if (typeof name !== 'string') return no(`change ${i + 1} has no name`)
    if (!Array.isArray(list)) return no(`change ${i + 1} has no edits`)
    edits += list.length
    if (edits > MOST_EDITS) return no(`more than ${MOST_EDITS} edits at once`)
    const bad = list.findIndex((e) => !isEdit(e))
    if (bad >= 0) return no(`edit ${bad + 1} of change ${i + 1} is none`)
  }
  return { ok: true, changes: input as Change[] }
}
