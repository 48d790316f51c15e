/** What every engine brings, whichever school: crankcase, passages up to the covers, covers with their ports, manifold, inlet tract. */
import type { Engine, Line, Part } from '../document/schema'
import { direct, inlet, passage, port, space } from './parts'

export type Sizes = {
  /** vacuum side, breather side, and a vented line of a strong engine, mm */
  readonly suctionMm: number
  readonly breatherMm: number
  readonly ventMm: number
  readonly passageMm: number
  readonly passages: number
  readonly pcv: string
  /** what may pass the throttle by at idle without a plunger valve to throttle it, mm */
  readonly restrictorMm: number
  readonly check: string
  readonly bigCheck: string
  /** what the breather's baffle and nipple cost at 100 l/min, kPa, where it is no ordinary one */
  readonly breatherLossKpa?: number
  /** the can for whatever stands in a sealed line, where the ordinary ones cost too much */
  readonly can?: string
  /** the same of a vent's filter */
  readonly filterKpa?: number
  /** bore of a stock regulator, mm; else four fifths of the vacuum side's */
  readonly regulatorMm?: number
}

/** Sizes by displacement, each up to what it says in cc: typical of what engines of that size carry (estimates). */
const SIZES: readonly (Sizes & { readonly upToCc: number })[] = [
  {
    upToCc: 1000,
    suctionMm: 8.7,
    breatherMm: 12.7,
    ventMm: 12.7,
    passageMm: 9,
    passages: 2,
    pcv: 'small',
    restrictorMm: 1.4,
    check: 'small',
    bigCheck: 'medium',
  },
  {
    upToCc: 1700,
    suctionMm: 9.5,
    breatherMm: 14.3,
    ventMm: 14.3,
    passageMm: 10,
    passages: 3,
    pcv: 'small',
    restrictorMm: 1.8,
    check: 'medium',
    bigCheck: 'large',
  },
  {
    upToCc: 2800,
    suctionMm: 11.1,
    breatherMm: 15.9,
    ventMm: 15.9,
    passageMm: 11,
    passages: 4,
    pcv: 'medium',
    restrictorMm: 2.2,
    check: 'medium',
    bigCheck: 'large',
  },
  {
    upToCc: 4200,
    suctionMm: 12.7,
    breatherMm: 19,
    ventMm: 17.5,
    passageMm: 12,
    passages: 4,
    pcv: 'large',
    restrictorMm: 3.6,
    check: 'large',
    bigCheck: 'wide',
  },
  {
    upToCc: Infinity,
    suctionMm: 15.9,
    breatherMm: 19,
    ventMm: 19,
    passageMm: 12,
    passages: 5,
    pcv: 'eight',
    restrictorMm: 4.4,
    check: 'large',
    bigCheck: 'wide',
  },
]
/** From here on a charged engine needs more than the breather of its size. */
const BIG_CHARGED_CC = 2200

/**
 * Loose rings with much boost or much displacement: covers get welded bungs over wide baffles and -16 lines, cans wide meshes, vents a filter
 * twice as large, and a regulator is a wide one.
 */
export const isStrong = (e: Engine): boolean =>
  (e.rings === 'loose' || e.rings === 'worn') && (e.boostKpa >= 140 || e.displacementCc >= 6500)
const STRONG = {
  breatherMm: 25.4,
  ventMm: 25.4,
  bigCheck: 'huge',
  passages: 8,
  passageMm: 14,
  breatherLossKpa: 0.04,
  can: 'wide-mesh',
  filterKpa: 0.03,
  regulatorMm: 20,
}

/** Sizes follow displacement; boost brings twice the blow-by through the same ports. */
export function sizesOf(engine: Engine): Sizes {
  const sizes = ordinarySizes(engine)
  return isStrong(engine) ? { ...sizes, ...STRONG } : sizes
}

function ordinarySizes(engine: Engine): Sizes {
  const base = SIZES.find((s) => engine.displacementCc < s.upToCc)!
  if (engine.induction === 'na') return base
  const least =
    engine.displacementCc < BIG_CHARGED_CC
      ? { breatherMm: 15.9, ventMm: 19, bigCheck: 'wide' }
      : { breatherMm: 19, ventMm: 22.2, bigCheck: 'wide' }
  return {
    ...base,
    ...least,
    breatherMm: Math.max(base.breatherMm, least.breatherMm),
    ventMm: Math.max(base.ventMm, least.ventMm),
  }
}

export type EngineSide = {
  readonly parts: readonly Part[]
  readonly lines: readonly Line[]
  /** cover that carries the PCV seat, and the one with the breather; of one cover the same */ readonly pcvCover: string
  readonly breatherCover: string
  readonly covers: readonly string[]
}

/** What the inlet tract of an engine leads to, in words: the compressor or the throttle. */
export const inletLeadsTo = (engine: Engine): string =>
  engine.induction === 'turbo'
    ? 'Inlet, ahead of compressor'
    : engine.induction === 'super'
      ? 'Inlet, ahead of blower'
      : 'Inlet, ahead of throttle'

/** Ports that a circuit leaves without a line are capped. */
export function engineSide(engine: Engine): EngineSide {
  const { passageMm, passages, breatherLossKpa } = sizesOf(engine)
  const two = engine.layout !== 'inline' && engine.cylinders > 2
  const covers = two
    ? ([
        ['coverL', 'Left cover', 'passageL', 'Left drain passages'],
        ['coverR', 'Right cover', 'passageR', 'Right drain passages'],
      ] as const)
    : ([['cover', 'Cam cover', 'passage', 'Drain passages']] as const)
  const parts: Part[] = [
    space(
      'crankcase',
      'crankcase',
      'Crankcase',
      ...covers.map((_, i) => port(`top${i + 1}`, `Passage ${i + 1}`)),
      port('return', 'Oil return, block or pan'),
      port('balance', 'Crankcase vent'),
    ),
  ]
  const lines: Line[] = []
  for (const [i, [id, name, passageId, passageName]] of covers.entries()) {
    parts.push(
      passage(passageId, passageName, passageMm, passages),
      space(
        'cover',
        id,
        name,
        port('below', 'From the crankcase'),
        breatherLossKpa === undefined
          ? port('breather', 'Breather nipple')
          : { ...port('breather', 'Breather bung'), lossKpaAt100: breatherLossKpa },
        port('pcv', 'PCV seat'),
        { ...port('filler', 'Oil filler'), lossKpaAt100: 0 },
      ),
    )
    lines.push(
      direct(`${passageId}-in`, `${passageName}, lower end`, `crankcase.top${i + 1}`, `${passageId}.in`),
      direct(`${passageId}-out`, `${passageName}, upper end`, `${passageId}.out`, `${id}.below`),
    )
  }
  parts.push(
    space('manifold', 'manifold', 'Intake manifold', port('vacuum', 'Vacuum port')),
    inlet('inlet', inletLeadsTo(engine), 100, port('breather', 'Breather port'), port('second', 'Second port')),
  )
  // of two banks the breather sits on the left one, towards the inlet, the PCV valve on the right one, towards the manifold
  return { parts, lines, covers: covers.map((c) => c[0]), breatherCover: covers[0][0], pcvCover: covers.at(-1)![0] }
}
