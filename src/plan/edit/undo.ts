/** Whether undo takes back what it made, or something that came to stand there since. */
import { sameJson } from './diff'
import { applyEdits, valueAt, type Edit, type Path } from './edit'

/**
 * The places at which undoing `edits` through `back` would take back more than they made, since another device has changed what they left:
 * those that making them again would not bring back as they are. None where undo is clean, or no longer fits at all.
 *
 * @example
 * import { overtakenBy } from '@/plan/edit/undo'
 *
 * console.log(overtakenBy({ a: 3 }, [{ op: 'set', path: ['a'], value: 2 }], [{ op: 'set', path: ['a'], value: 1 }])) // [ [ 'a' ] ]
 */
export function overtakenBy<T>(document: T, edits: readonly Edit[], back: readonly Edit[]): readonly Path[] {
  const undone = applyEdits(document, back)
  if (!undone.ok) return []
  const again = applyEdits(undone.value, edits)
  return edits.flatMap((e) =>
    again.ok && sameJson(valueAt(document, e.path), valueAt(again.value, e.path)) ? [] : [e.path],
  )
}
