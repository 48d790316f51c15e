/** A bracket for a can: from what it hangs on to a strip of sheet, flat and bent, and whether it rings with the engine. */
import { flatLength, type BentStrip } from '@/core/bracket/bending'
import type { LoadedStrip } from '@/core/bracket/vibration'
import { fail, ok, type Result } from '@/core/result'
import { canBody, spotIn } from '../catalogue/bay-geometry'
import { ALLOYS, type Alloy } from '../catalogue/alloys'
import { borneKg, BRACKET_REACH, firingOrder, fullMassKg, mountsNear, STRIP_WIDTH, supportFor } from '../bay/hanging'
import type { Build, PartOf, Variant } from '../document/schema'
import { checkSquare, rectangle, type Drawing, type DrawingMark } from '../drawing/drawing'

export type BracketPlan = {
  readonly can: string
  readonly alloy: Alloy
  readonly bracket: BentStrip & LoadedStrip
  readonly flatM: number
  /** first natural frequency, and the engine's firing order from idle to rated speed, Hz */
  readonly ringsHz: number
  readonly engineHz: readonly [idle: number, rated: number]
  readonly order: number
  readonly rings: 'above' | 'within'
  /** mounts that it hangs on */
  readonly on: readonly string[]
  readonly massKg: number
  /** what the mounts bear is less than the full can */
  readonly tooHeavy: boolean
  readonly holes: readonly { readonly atM: number; readonly diameterM: number; readonly what: string }[]
}

/** Foot along the mount, overlap with the can's ring, m (estimates). */
const [FOOT, OVERLAP] = [0.035, 0.03]
/** Clearance holes for M6 and M8, m (ISO 273, medium). */
const [HOLE_MOUNT, HOLE_CAN] = [0.009, 0.0066]
/** A hole's middle stays this many diameters from an edge (common practice, no source). */
export const EDGE = 1.5

/**
 * The thinnest bracket that does not ring within the engine's speeds, from one mount, else from two; with its flat pattern.
 * @returns fails where the can, or anything to hang it on, has no place in the bay
 */
export function bracketFor(
  build: Build,
  variant: Variant,
  canId: string,
  alloyKey = ALLOYS[0]!.key,
): Result<BracketPlan> {
  const can = variant.parts.find((p): p is PartOf<'can'> => p.id === canId && p.kind === 'can')
  const spot = can && spotIn(build.bay, canId)
  const body = can && canBody(build.bay, can)
  if (!can || !spot || !body) return fail('Give the can its place in the bay first.')
  const mounts = mountsNear(build.bay, body)
  const first = mounts[0]
  if (!first) return fail('Enter a bolt or bracket in the bay that it may hang on.')
  if (first.awayM > BRACKET_REACH)
    return fail(`The nearest thing to hang it on, ${first.m.name.toLowerCase()}, is too far for a strip of sheet.`)
  const alloy = ALLOYS.find((a) => a.key === alloyKey) ?? ALLOYS[0]!
  const massKg = fullMassKg(can, body)
  const second = mounts[1] && mounts[1].awayM <= BRACKET_REACH ? mounts[1] : undefined
  const support = supportFor(build.engine, second ? [first, second] : [first], massKg, alloy)!
  const { thicknessM, supports, freeM } = support
  const insideRadiusM = Math.max(alloy.leastRadius * thicknessM, thicknessM)
  const arm = Math.max(0.03, first.awayM - body.radiusM + OVERLAP)
  const bracket: BentStrip & LoadedStrip = {
    youngs: alloy.youngs,
    density: alloy.density,
    thicknessM,
    widthM: STRIP_WIDTH,
    legsM: supports === 1 ? [FOOT, arm] : [FOOT, Math.max(0.06, freeM - body.radiusM), FOOT],
    insideRadiusM,
    angleDeg: 90,
    kFactor: insideRadiusM < 2 * thicknessM ? 0.33 : 0.5,
    freeLengthM: freeM,
    endMassKg: massKg,
    supports,
  }
  const flatM = flatLength(bracket)
  const on = supports === 1 ? [first] : [first, second!]
  const hole = (what: string, atM: number, diameterM: number) => ({ what, atM, diameterM })
  return ok({
    can: can.name,
    alloy,
    bracket,
    flatM,
    ringsHz: support.ringsHz,
    engineHz: support.engineHz,
    order: firingOrder(build.engine.cylinders),
    rings: support.rings,
    on: on.map(({ m }) => m.name),
    massKg,
    tooHeavy: borneKg(on) < massKg,
    holes: [
      hole(`mount: ${first.m.name}`, FOOT / 2, HOLE_MOUNT),
      ...(supports === 1
        ? [hole('can ring', flatM - 0.012, HOLE_CAN), hole('can ring', flatM - 0.036, HOLE_CAN)]
        : [
            hole('can ring', flatM / 2 - 0.015, HOLE_CAN),
            hole('can ring', flatM / 2 + 0.015, HOLE_CAN),
            hole(`mount: ${second!.m.name}`, flatM - FOOT / 2, HOLE_MOUNT),
          ]),
    ].filter((h) => h.atM > h.diameterM * EDGE && h.atM < flatM - h.diameterM),
  })
}

/** The flat pattern at 1:1: outline, holes, bend lines, and a square to check the print by. */
export function bracketDrawing(b: BracketPlan): Drawing {
  const [l, w] = [b.flatM * 1000, b.bracket.widthM * 1000]
  const bends: DrawingMark[] = []
  let at = 0
  b.bracket.legsM.slice(0, -1).forEach((leg) => {
    const alone = flatLength({ ...b.bracket, legsM: [leg, leg] }) / 2
    at += alone * 1000
    bends.push(
      {
        kind: 'line',
        layer: 'bend',
        points: [
          [at, 0],
          [at, w],
        ],
      },
      {
        kind: 'text',
        layer: 'dimension',
        at: [at + 1, w + 2],
        text: `bend ${b.bracket.angleDeg}° r ${(b.bracket.insideRadiusM * 1000).toFixed(1)}`,
        size: 3,
      },
    )
  })
  return {
    title: `Bracket for the ${b.can.toLowerCase()}`,
    marks: [
      rectangle('outline', { x0: 0, y0: 0, x1: l, y1: w }),
      ...bends,
      // figures over and under by turns: two holes of a ring stand close
      ...b.holes.flatMap((h, i): DrawingMark[] => [
        { kind: 'circle', layer: 'hole', at: [h.atM * 1000, w / 2], r: (h.diameterM * 1000) / 2 },
        {
          kind: 'text',
          layer: 'dimension',
          at: [h.atM * 1000 + 2, i % 2 === 0 ? w / 2 + 7 : w / 2 - 11],
          text: `${(h.diameterM * 1000).toFixed(1)} at ${(h.atM * 1000).toFixed(1)}`,
          size: 3,
        },
      ]),
      {
        kind: 'text',
        layer: 'dimension',
        at: [0, -6],
        text: `${l.toFixed(1)} x ${w.toFixed(0)} x ${(b.bracket.thicknessM * 1000).toFixed(0)} mm, ${b.alloy.name}`,
        size: 4,
      },
      ...checkSquare(0, -64),
    ],
  }
}
