/** A bracket for a can: from what it hangs on to a strip of sheet, flat and bent, and whether it rings with the engine. */
import { flatLength, type BentStrip } from '@/core/bracket/bending'
import { firstFrequency, type LoadedStrip } from '@/core/bracket/vibration'
import { fail, ok, type Result } from '@/core/result'
import { canBody, spotIn } from '../catalogue/bay-geometry'
import { ALLOYS, type Alloy } from '../catalogue/alloys'
import { borneKg, BRACKET_REACH, fullMassKg, mountsNear } from '../bay/hanging'
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

/**
 * Width of the strip, foot along the mount, overlap with the can's ring, m (estimates).
 */
const [WIDTH, FOOT, OVERLAP] = [0.04, 0.035, 0.03]
/** Clear of resonance by this share of the highest exciting frequency (estimate). */
const CLEAR = 1.2
const THICKNESSES = [2, 3, 4, 5, 6].map((t) => t / 1000)
/** Clearance holes for M6 and M8, m (ISO 273, medium). */
const [HOLE_MOUNT, HOLE_CAN] = [0.009, 0.0066]
/** A hole's middle stays this many diameters from an edge (common practice, no source). */
export const EDGE = 1.5
/** Firing order of a four-stroke: half the cylinders; what shakes most. */
export const firingOrder = (cylinders: number): number => Math.max(0.5, cylinders / 2)

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
  const order = firingOrder(build.engine.cylinders)
  const engineHz = [build.engine.idleRpm, build.engine.ratedRpm].map((rpm) => (rpm / 60) * order) as [number, number]
  const second = mounts[1] && mounts[1].awayM <= BRACKET_REACH ? mounts[1] : undefined
  const make = (t: number, supports: 1 | 2): BracketPlan => {
    const free = supports === 1 ? Math.max(0.03, first.awayM) : first.awayM + second!.awayM
    const insideRadiusM = Math.max(alloy.leastRadius * t, t)
    const arm = Math.max(0.03, first.awayM - body.radiusM + OVERLAP)
    const legsM = supports === 1 ? [FOOT, arm] : [FOOT, Math.max(0.06, free - body.radiusM), FOOT]
    const bracket: BentStrip & LoadedStrip = {
      youngs: alloy.youngs,
      density: alloy.density,
      thicknessM: t,
      widthM: WIDTH,
      legsM,
      insideRadiusM,
      angleDeg: 90,
      kFactor: insideRadiusM < 2 * t ? 0.33 : 0.5,
      freeLengthM: free,
      endMassKg: massKg,
      supports,
    }
    const flatM = flatLength(bracket)
    const ringsHz = firstFrequency(bracket)
    const on = supports === 1 ? [first] : [first, second!]
    const end = (what: string, atM: number, diameterM: number) => ({ what, atM, diameterM })
    return {
      can: can.name,
      alloy,
      bracket,
      flatM,
      ringsHz,
      engineHz,
      order,
      rings: ringsHz > engineHz[1] * CLEAR ? 'above' : 'within',
      on: on.map(({ m }) => m.name),
      massKg,
      tooHeavy: borneKg(on) < massKg,
      holes: [
        end(`mount: ${first.m.name}`, FOOT / 2, HOLE_MOUNT),
        ...(supports === 1
          ? [end('can ring', flatM - 0.012, HOLE_CAN), end('can ring', flatM - 0.036, HOLE_CAN)]
          : [
              end('can ring', flatM / 2 - 0.015, HOLE_CAN),
              end('can ring', flatM / 2 + 0.015, HOLE_CAN),
              end(`mount: ${second!.m.name}`, flatM - FOOT / 2, HOLE_MOUNT),
            ]),
      ].filter((h) => h.atM > h.diameterM * EDGE && h.atM < flatM - h.diameterM),
    }
  }
  const tries = [...THICKNESSES.map((t) => make(t, 1)), ...(second ? THICKNESSES.map((t) => make(t, 2)) : [])]
  return ok(tries.find((b) => b.rings === 'above') ?? tries.at(-1)!)
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
      ...b.holes.flatMap((h): DrawingMark[] => [
        { kind: 'circle', layer: 'hole', at: [h.atM * 1000, w / 2], r: (h.diameterM * 1000) / 2 },
        {
          kind: 'text',
          layer: 'dimension',
          at: [h.atM * 1000 + 2, w / 2 + 6],
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
