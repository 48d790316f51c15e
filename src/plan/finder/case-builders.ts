/** Cases in the document: opened with the first thing that is known, added to, closed with what it was. */
import type { Build, FaultCase } from '../document/schema'
import { MAX_CASES } from '../document/bounds'
import type { EditBuilder } from '../edit/edit-builders'
import { setField } from '../edit/edit-builders'

/** The case that is open for the active plan, if one is. */
export const openCase = (build: Build): FaultCase | undefined =>
  build.cases?.findLast((c) => c.closed === undefined && c.plan === build.active)

/** Changes a case, or adds it; the oldest closed ones go when there are too many. */
export const saveCase =
  (changed: FaultCase): EditBuilder =>
  (build) => {
    const others = (build.cases ?? []).filter((c) => c.id !== changed.id)
    const known = build.cases?.some((c) => c.id === changed.id)
    const next = known
      ? build.cases!.map((c) => (c.id === changed.id ? changed : c))
      : [...others.slice(-(MAX_CASES - 1)), changed]
    return setField(['cases'], next)(build)
  }

/** Takes a case away. */
export const removeCase =
  (id: string): EditBuilder =>
  (build) =>
    setField(
      ['cases'],
      (build.cases ?? []).filter((c) => c.id !== id),
    )(build)
