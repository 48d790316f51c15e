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

/** Edits that put figures into a build as readings have them, with the note that they are that. */
export function adoptLearned(build: Build, edits: readonly Edit[]): readonly Edit[] {
  const taken = figuresSet(build, edits).map(({ path, figure }) => ({ id: idOf(path), figure }))
  if (taken.length === 0) return edits
  const before = (build.learned ?? []).filter((l) => !taken.some((t) => t.id === l.id))
  return [...edits, { op: 'set', path: ['learned'], value: [...before, ...taken].slice(-MAX_LEARNED) }]
}
