/** The engine's picture as boxes: what a name keeps clear of, and the bodies that names may stand in. Pure. */
import type { Engine } from '@/plan/document/schema'
import { boxesAlong, densePoints, type LabelBox } from '@/ui/labels'
import { BANK, CRANK, plenumX, type PlacedPart, type Point2 } from './layout'

/** The intake's pipes, from the filter to the plenum, as they are drawn. */
export function enginePipes(engine: Engine): readonly (readonly Point2[])[] {
  const x = plenumX(engine)
  const toFilter = [42, 262] as const
  if (engine.induction !== 'turbo') return [[toFilter, [42, 384], [x, 384], [x, 226]]]
  return [
    [toFilter, [42, 300]],
    [
      [58, 326],
      [58, 384],
      [x, 384],
      [x, 226],
    ],
  ]
}

/** What of the picture a name is not read over. */
export function engineBoxes(engine: Engine): LabelBox[] {
  const x = plenumX(engine)
  const lean = BANK[engine.layout]
  const bank = (deg: number): LabelBox[] => {
    const a = (deg * Math.PI) / 180
    const at = (r: number) => [CRANK[0] + Math.sin(a) * r, CRANK[1] - Math.cos(a) * r] as const
    return boxesAlong(densePoints([at(40), at(deg === 0 ? 126 : 100)]), 40)
  }
  return [
    [14, 222, 56, 40],
    ...(engine.induction === 'turbo' ? [[23, 287, 50, 50] as const] : []),
    [x - 38, 178, 76, 58],
    [166, 328, 128, 50],
    ...enginePipes(engine).flatMap((p) => boxesAlong(p, 8)),
    ...(lean === 0 ? bank(0) : [...bank(-lean), ...bank(lean)]),
  ]
}

/** The body that is drawn of one of the engine's own parts, and whether its name may stand in it; what is only a mouth on a pipe has none. */
export function bodyOf({
  part,
  at: [x, y],
}: PlacedPart): { readonly at: Point2; readonly half: Point2; readonly holdsName: boolean } | undefined {
  if (part.kind === 'cover') return { at: [x, y + 11], half: [50, 9], holdsName: true }
  if (part.kind === 'manifold') return { at: [x, y + 13], half: [36, 12], holdsName: true }
  if (part.kind === 'crankcase') return { at: [x, y + 14], half: [58, 9], holdsName: true }
  if (part.kind === 'inlet') return { at: [x, y + 10], half: [28, 20], holdsName: false }
  return undefined
}
