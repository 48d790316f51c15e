/** Fittings of the builder's own beside the tables: kept with the build, in and out as a table. */
import { fail, ok, type Result } from '@/core/result'
import { formOf, FORM_KEYS } from '../catalogue/forms'
import type { Piece, Sealing } from '../catalogue/pieces'
import { MAX_OWN } from '../document/bounds'
import { PIECE_FIELDS } from '../document/fit-fields'
import type { Build, FitNotes } from '../document/schema'
import { byLine, csvOf, readCsv } from '../files/csv'

export type OwnPiece = NonNullable<FitNotes['pieces']>[number]

/** How a form is sealed by whatever goes on it, and what a fitter does there. */
const SEALS: Readonly<Partial<Record<string, readonly [Sealing, why: string]>>> = {
  boss: ['O-ring', 'its O-ring seals, oiled; nothing on the thread'],
  metric: ['O-ring', 'its O-ring or a new washer seals; nothing on the thread'],
  pipe: ['tape', 'taper thread: PTFE tape in the direction of the thread, two turns, the first thread bare'],
  flare: ['cone', 'metal on metal, a drop of oil on the thread; nothing on the cone'],
  hole: ['grommet', 'a deburred hole of its size'],
  quick: ['press', 'pushed on till it clicks, then tugged'],
}

/** As pieces that the search takes; one whose forms are none of the tables' is left out. */
export const ownPieces = (build: Build): readonly Piece[] =>
  (build.fit?.pieces ?? []).flatMap((p): Piece[] => {
    const [from, to] = [formOf(p.from), formOf(p.to)]
    if (!from || !to || p.from === p.to) return []
    const [sealing, why] = SEALS[from.kind] ?? ['clamp', 'your own piece, clamped']
    return [{ ...p, key: `own-${p.id}`, joints: p.joints ?? 1, sealing, why }]
  })

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
