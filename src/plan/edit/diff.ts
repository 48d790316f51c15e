/** What sets one document apart from another, as edits that make the one of the other. */
import type { Build } from '../document/schema'
import { isIdentified, type Edit, type Identified, type Path } from './edit'

/** Whether two JSON values are the same; a field that holds undefined is one that is not there. */
export function sameJson(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (a === null || b === null || typeof a !== 'object' || typeof b !== 'object') return false
  if (Array.isArray(a) || Array.isArray(b))
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((x, i) => sameJson(x, b[i]))
  const [one, other] = [a as Record<string, unknown>, b as Record<string, unknown>]
  return [...new Set([...Object.keys(one), ...Object.keys(other)])].every((k) => sameJson(one[k], other[k]))
}

const isList = (x: unknown): x is readonly Identified[] => Array.isArray(x) && x.length > 0 && x.every(isIdentified)
const isPlain = (x: unknown): x is Record<string, unknown> => x !== null && typeof x === 'object' && !Array.isArray(x)

function diffList(path: Path, a: readonly Identified[], b: readonly Identified[], edits: Edit[]): void {
  if (a.length === b.length && a.every((x, i) => x.id === b[i]!.id)) {
    b.forEach((x, i) => diffAt([...path, x.id], a[i], x, edits))
    return
  }
  const [before, after] = [new Map(a.map((x) => [x.id, x])), new Map(b.map((x) => [x.id, x]))]
  const stayed = (list: readonly Identified[]) =>
    list.filter((x) => before.has(x.id) && after.has(x.id)).map((x) => x.id)
  if (!sameJson(stayed(a), stayed(b))) {
    // put in another order: the list as a whole
    edits.push({ op: 'set', path, value: b })
    return
  }
  for (const x of a) if (!after.has(x.id)) edits.push({ op: 'remove', path: [...path, x.id] })
  for (const x of b) {
    const was = before.get(x.id)
    if (was) diffAt([...path, x.id], was, x, edits)
  }
  // from the end, so that what stands behind is there already
  b.toReversed().forEach((x, k) => {
    if (!before.has(x.id))
      edits.push({ op: 'insert', path: [...path, x.id], value: x, before: k === 0 ? null : b[b.length - k]!.id })
  })
}

function diffAt(path: Path, a: unknown, b: unknown, edits: Edit[]): void {
  if (a === b) return
  if (b === undefined) {
    edits.push({ op: 'unset', path })
    return
  }
  if (
    (isList(a) && (isList(b) || (Array.isArray(b) && b.length === 0))) ||
    (Array.isArray(a) && a.length === 0 && isList(b))
  ) {
    diffList(path, a, b as readonly Identified[], edits)
    return
  }
  // a part of another kind is another part under the same id
  if (isPlain(a) && isPlain(b) && a.kind === b.kind) {
    for (const key of new Set([...Object.keys(a), ...Object.keys(b)])) diffAt([...path, key], a[key], b[key], edits)
    return
  }
  if (!sameJson(a, b)) edits.push({ op: 'set', path, value: b })
}

/**
 * Edits that make `after` of `before`; none where they say the same.
 *
 * @example
 * import { difference } from '@/plan/edit/diff'
 *
 * console.log(difference({ name: 'A' }, { name: 'B' })) // [ { op: 'set', path: [ 'name' ], value: 'B' } ]
 */
export function difference<T extends object = Build>(before: T, after: T): readonly Edit[] {
  const edits: Edit[] = []
  diffAt([], before, after, edits)
  return edits
}
