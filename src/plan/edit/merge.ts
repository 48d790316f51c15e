/** Whether changes made on two devices touch the same thing. */
import { sameJson } from './diff'
import type { Edit, Path } from './edit'

/** One of two paths leads to the other, or to something in it. */
const touchSamePlace = (a: Path, b: Path): boolean => {
  const n = Math.min(a.length, b.length)
  for (let k = 0; k < n; k++) if (a[k] !== b[k]) return false
  return true
}

export type Clash = {
  readonly path: Path
  readonly mine: Edit
  /** the last of theirs that touches it */
  readonly theirs: Edit
}

export type RebasedEdits = {
  /** what of mine is still to be made: what both did alike is made already */
  readonly rest: readonly Edit[]
  readonly clashes: readonly Clash[]
}

/**
 * Mine against what others have done since: different things meet, the same thing done alike counts once, the same thing done differently
 * is a clash for a person to decide.
 *
 * @example
 * import { rebaseEdits } from '@/plan/edit/merge'
 *
 * console.log(rebaseEdits([{ op: 'unset', path: ['a'] }], [{ op: 'unset', path: ['b'] }]).clashes.length) // 0
 */
export function rebaseEdits(mine: readonly Edit[], theirs: readonly Edit[]): RebasedEdits {
  const rest: Edit[] = []
  const clashes: Clash[] = []
  for (const edit of mine) {
    const touching = theirs.filter((t) => touchSamePlace(t.path, edit.path))
    const last = touching.at(-1)
    if (!last) rest.push(edit)
    else if (!sameJson(last, edit)) clashes.push({ path: edit.path, mine: edit, theirs: last })
  }
  return { rest, clashes }
}
