/** Fittings of the builder's own, in and out as a table. */
import { fail, ok, type Result } from '@/core/result'
import { formOf, FORM_KEYS } from '../catalogue/forms'
import { MAX_OWN } from '../document/bounds'
import { PIECE_FIELDS } from '../document/fit-fields'
import type { Build } from '../document/schema'
import { byLine, csvOf, readCsv } from '../files/csv'
import type { OwnPiece } from './own-pieces'

const HEADS = ['name', 'fits_on', 'offers', 'bore_mm', 'joints'] as const

/** Pieces that the builder added to the lists by hand, a row each. */
export const ownCsv = (build: Build): string =>
  csvOf([HEADS, ...(build.fit?.pieces ?? []).map((p) => [p.name, p.from, p.to, p.boreMm, p.joints])])

/** The pieces of a table, all of them or none. */
export function readOwn(text: string, newId: () => string): Result<readonly OwnPiece[]> {
  const read = readCsv(text, ['name', 'fits_on', 'offers', 'bore_mm'])
  if (!read.ok) return read
  if (read.value.length === 0) return fail('The table holds no fittings.')
  if (read.value.length > MAX_OWN) return fail(`It holds ${read.value.length} fittings; ${MAX_OWN} are kept.`)
  const problems: { line: number; says: string }[] = []
  const pieces = read.value.map(({ line, cells }): OwnPiece => {
    const wrong = (says: string) => problems.push({ line, says })
    const [from, to] = [cells.fits_on ?? '', cells.offers ?? '']
    for (const key of [from, to])
      if (!formOf(key)) wrong(`“${key.slice(0, 20)}” is no form; it wants one such as ${FORM_KEYS[3]} or flare-10.`)
    if (from === to) wrong('it fits on what it offers.')
    const boreMm = Number(cells.bore_mm)
    if (!(boreMm >= PIECE_FIELDS.boreMm.min && boreMm <= PIECE_FIELDS.boreMm.max))
      wrong(`its bore is ${PIECE_FIELDS.boreMm.min} to ${PIECE_FIELDS.boreMm.max} mm.`)
    const joints = cells.joints ? Number(cells.joints) : undefined
    if (joints !== undefined && !(Number.isInteger(joints) && joints >= 1 && joints <= PIECE_FIELDS.joints.max))
      wrong(`it makes 1 to ${PIECE_FIELDS.joints.max} joints.`)
    const name = (cells.name ?? '').trim().slice(0, 80)
    if (name === '') wrong('it has no name.')
    return { id: newId(), name, from, to, boreMm, joints }
  })
  return problems.length > 0 ? fail(byLine(problems)) : ok(pieces)
}
