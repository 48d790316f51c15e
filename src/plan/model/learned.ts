/**
 * Figures of a build that stand as readings have them. They are estimates still: the readings weigh on them again whenever all is worked
 * out, so counting them as known would count every reading twice.
 */
import { MAX_LEARNED } from '../document/bounds'
import type { Build } from '../document/schema'
import { valueAt, type Edit, type Path } from '../edit/edit'

const idOf = (path: Path) => path.join('/')

/** Whether the figure at a path is one that readings put there, and nobody has entered another since. */
export function isLearned(build: Build, path: Path): boolean {
  const found = build.learned?.find((l) => l.id === idOf(path))
  return found !== undefined && found.figure === valueAt(build, path)
}

/** Figures that edits set, each at its own path; curves are left out, which are no single figure. */
function figuresSet(build: Build, edits: readonly Edit[]): { readonly path: Path; readonly figure: number }[] {
  return edits.flatMap((edit) => {
    if (edit.op !== 'set') return []
    if (typeof edit.value === 'number') return [{ path: edit.path, figure: edit.value }]
    if (edit.value === null || typeof edit.value !== 'object' || Array.isArray(edit.value)) return []
    return Object.entries(edit.value).flatMap(([key, figure]) => {
      const path = [...edit.path, key]
      return typeof figure === 'number' && figure !== valueAt(build, path) ? [{ path, figure }] : []
    })
  })
}

/** Edits that put figures into a build as readings have them, with the note that they are that, and of what stood there. */
export function adoptLearned(build: Build, moved: readonly Edit[]): readonly Edit[] {
  // a valve's curve is drawn or measured as a whole: it stays as it is, and what it lets by is its discharge
  const edits = moved.filter((e) => e.op !== 'set' || !Array.isArray(e.value))
  const taken = figuresSet(build, edits).map(({ path, figure }) => {
    const id = idOf(path)
    // taken in again, what was typed before the first time still counts
    const stood = isLearned(build, path) ? build.learned!.find((l) => l.id === id)!.before : valueAt(build, path)
    return { id, figure, ...(typeof stood === 'number' ? { before: stood } : {}) }
  })
  if (taken.length === 0) return edits
  const before = (build.learned ?? []).filter((l) => !taken.some((t) => t.id === l.id))
  return [...edits, { op: 'set', path: ['learned'], value: [...before, ...taken].slice(-MAX_LEARNED) }]
}

/** Edits that put back what stood where readings have put a figure that still stands; none where there is none. */
export function dropLearned(build: Build): readonly Edit[] {
  const standing = (build.learned ?? []).filter((l) => isLearned(build, l.id.split('/')))
  if (standing.length === 0) return []
  return [
    ...standing.map(({ id, before }): Edit => {
      const path = id.split('/')
      return before === undefined ? { op: 'unset', path } : { op: 'set', path, value: before }
    }),
    { op: 'unset', path: ['learned'] },
  ]
}
