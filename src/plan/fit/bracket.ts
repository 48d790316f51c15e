/** A bracket for a can: from what it hangs on to a strip of sheet, flat and bent, and whether it rings with the engine. */
import { flatLength, type BentStrip } from '@/core/bracket/bending'
import type { LoadedStrip } from '@/core/bracket/vibration'
import { fail, ok, type Result } from '@/core/result'
import { canBody, spotIn, type CanBody } from '../catalogue/bay-geometry'
import { ALLOYS, type Alloy } from '../catalogue/alloys'
import {
  supportedKg,
  BRACKET_REACH,
  firingOrder,
  fullMassKg,
  mountsNear,
  STRIP_WIDTH,
  supportFor,
  type MountNear,
} from '../bay/hanging'
import { BRACKET_SHAPES } from '../document/bounds'
import type { Bay, Build, PartOf, Variant } from '../document/schema'
import { checkSquare, rectangle, type Drawing, type DrawingMark } from '../drawing/drawing'

export type BracketPlan = {
  readonly can: string
  readonly shape: BracketShape
  /** strap round the can where the bracket has one, flat length in m */
  readonly strapM: number | undefined
  /** what to watch where it is fixed, by what it hangs on and what stands below */
  readonly notes: readonly string[]
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

type Mount = NonNullable<Bay['mounts']>[number]
export type BracketShape = (typeof BRACKET_SHAPES)[number]
export const BRACKET_NAMES: Readonly<Record<BracketShape, string>> = {
  flat: 'flat',
  L: 'L, one bend',
  Z: 'Z, two bends',
  U: 'U, between two supports',
  between: 'two supports',
  ring: 'L with a strap round the can',
}

/** Legs of a strip by its shape, m, outside: foot, arm, what spans, and the step of a Z. */
function legsOf(shape: BracketShape, { arm, spanM, stepM }: { arm: number; spanM: number; stepM: number }): number[] {
  switch (shape) {
    case 'flat':
      return [FOOT + arm]
    case 'L':
    case 'ring':
      return [FOOT, arm]
    case 'Z':
      return [FOOT, stepM, arm]
    case 'U':
    case 'between':
      return [FOOT, spanM, FOOT]
  }
}

/** How far a Z steps: from the mount up or down to the middle of the can, no less than its two bends take, m. */
const stepBetween = (
  mount: MountNear,
  { floor, heightM }: Pick<CanBody, 'floor' | 'heightM'>,
  radiusM: number,
): number => Math.max(3 * radiusM + 0.006, Math.abs(floor[2] + heightM / 2 - mount.m.upMm / 1000))

/** Ears of a strap, where its bolt goes through, m. */
const EAR = 0.025
/** A hole for spanner and cup: a finger wider than a plug's hexagon of 22 mm and its spanner (common practice, no source), m. */
const ACCESS_HOLE = 0.062

/** What its fixing asks for: by the kind of thing it hangs on, and by a panel that stands below its drain. */
function notesOf(
  build: Build,
  kinds: readonly Mount['kind'][],
  { floor, radiusM }: Pick<CanBody, 'floor' | 'radiusM'>,
): string[] {
  const notes: string[] = []
  if (kinds.includes('shroud'))
    notes.push(
      'On plastic: clip nuts and wide washers, tightened just so that nothing turns; no threadlocker, it cracks plastic.',
    )
  if (kinds.includes('bracket'))
    notes.push(
      'On thin sheet: a backing plate of 2 mm behind it, as wide as the foot, so that the sheet does not tear.',
    )
  const below = build.bay?.keepOuts.find(
    (k) =>
      k.kind === 'panel' &&
      k.upMm / 1000 < floor[2] &&
      Math.abs(k.forwardMm / 1000 - floor[0]) < k.longMm / 2000 + radiusM &&
      Math.abs(k.leftMm / 1000 - floor[1]) < k.wideMm / 2000 + radiusM &&
      k.highMm < 60,
  )
  if (below)
    notes.push(
      `An access hole of ${Math.round(ACCESS_HOLE * 1000)} mm in the ${below.name.toLowerCase()} under its drain, edge rolled, with a blanking plug.`,
    )
  return notes
}

/**
 * The thinnest bracket that does not ring within the engine's speeds, from one mount, else from two; with its flat pattern.
 * @returns fails where the can, or anything to hang it on, has no place in the bay
 *
 * @example
 * import { bracketFor } from '@/plan/fit/bracket'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(bracketFor(build, build.variants[0], 'can')) // { ok: false, reason: 'Give the can its place in the bay first.', at: undefined }
 */
export function bracketFor(build: Build, variant: Variant, canId: string): Result<BracketPlan> {
  const can = variant.parts.find((p): p is PartOf<'can'> => p.id === canId && p.kind === 'can')
  const spot = can && spotIn(build.bay, canId)
  const body = can && canBody(build.bay, can)
  if (!can || !spot || !body) return fail('Give the can its place in the bay first.')
  const mounts = mountsNear(build.bay, body)
  const first = mounts[0]
  if (!first) return fail('Enter a bolt or bracket in the bay that it may hang on.')
  if (first.awayM > BRACKET_REACH)
    return fail(`The nearest thing to hang it on, ${first.m.name.toLowerCase()}, is too far for a strip of sheet.`)
  const chosen = build.fit?.brackets?.find((b) => b.id === canId)
  const alloy = ALLOYS.find((a) => a.key === chosen?.alloy) ?? ALLOYS[0]!
  const massKg = fullMassKg(can, body)
  const second = mounts[1] && mounts[1].awayM <= BRACKET_REACH ? mounts[1] : undefined
  const between = chosen?.shape === 'U' || chosen?.shape === 'between'
  if (between && !second)
    return fail('A bracket between two supports needs a second bolt or bracket within reach: enter one in the bay.')
  const alone = chosen?.shape !== undefined && !between
  const support = supportFor(build.engine, second && !alone ? [first, second] : [first], {
    massKg,
    alloy,
    least: between ? 2 : 1,
  })!
  const shape: BracketShape = chosen?.shape ?? (support.supports === 2 ? 'between' : 'L')
  const { thicknessM, supports, freeM } = support
  const insideRadiusM = Math.max(alloy.leastRadius * thicknessM, thicknessM)
  const arm = Math.max(0.03, first.awayM - body.radiusM + OVERLAP)
  const bracket: BentStrip & LoadedStrip = {
    youngs: alloy.youngs,
    density: alloy.density,
    thicknessM,
    widthM: STRIP_WIDTH,
    legsM: legsOf(shape, {
      arm,
      spanM: Math.max(0.06, freeM - body.radiusM),
      stepM: stepBetween(first, body, insideRadiusM),
    }),
    insideRadiusM,
    angleDeg: 90,
    kFactor: insideRadiusM < 2 * thicknessM ? 0.33 : 0.5,
    freeLengthM: freeM,
    endMassKg: massKg,
    supports,
  }
  const flatM = flatLength(bracket)
  const on = supports === 1 ? [first] : [first, second!]
  const strapM = shape === 'ring' ? Math.PI * (2 * body.radiusM + thicknessM) + 2 * EAR : undefined
  const hole = (what: string, atM: number, diameterM: number) => ({ what, atM, diameterM })
  return ok({
    can: can.name,
    shape,
    strapM,
    notes: notesOf(
      build,
      on.map(({ m }) => m.kind),
      body,
    ),
    alloy,
    bracket,
    flatM,
    ringsHz: support.ringsHz,
    engineHz: support.engineHz,
    order: firingOrder(build.engine.cylinders),
    rings: support.rings,
    on: on.map(({ m }) => m.name),
    massKg,
    tooHeavy: supportedKg(on) < massKg,
    holes: [
      hole(`mount: ${first.m.name}`, FOOT / 2, HOLE_MOUNT),
      ...(supports === 1
        ? [hole(strapM ? 'strap' : 'can ring', flatM - 0.012, HOLE_CAN), hole('can ring', flatM - 0.036, HOLE_CAN)]
        : [
            hole('can ring', flatM / 2 - 0.015, HOLE_CAN),
            hole('can ring', flatM / 2 + 0.015, HOLE_CAN),
            hole(`mount: ${second!.m.name}`, flatM - FOOT / 2, HOLE_MOUNT),
          ]),
    ].filter((h) => h.atM > h.diameterM * EDGE && h.atM < flatM - h.diameterM),
  })
}

/** A strap over the strip, with a hole in each ear; its ring is bent round the can itself. */
function strapMarks({ strapM }: BracketPlan, widthMm: number): DrawingMark[] {
  if (strapM === undefined) return []
  const [long, y0] = [strapM * 1000, widthMm + 20]
  const high = 20
  const hole = (x: number): DrawingMark => ({
    kind: 'circle',
    layer: 'hole',
    at: [x, y0 + high / 2],
    r: (HOLE_CAN * 1000) / 2,
  })
  return [
    rectangle('outline', { x0: 0, y0, x1: long, y1: y0 + high }),
    hole(10),
    hole(long - 10),
    ...[EAR * 1000, long - EAR * 1000].map((x): DrawingMark => ({
      kind: 'line',
      layer: 'bend',
      points: [
        [x, y0],
        [x, y0 + high],
      ],
    })),
    {
      kind: 'text',
      layer: 'dimension',
      at: [0, y0 + high + 3],
      text: `strap ${long.toFixed(1)} x ${high} mm, 1.5 mm`,
      size: 3,
    },
  ]
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
      ...strapMarks(b, w),
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
