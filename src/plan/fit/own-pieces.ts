/** Fittings of the builder's own beside the tables: kept with the build. */
import { formOf } from '../catalogue/forms'
import type { Piece, Sealing } from '../catalogue/pieces'
import type { Build, FitNotes } from '../document/schema'

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
