/** What a can weighs full, what it hangs on in the bay, and how it shakes there. */
import { firstFrequency } from '@/core/bracket/vibration'
import type { Point3 } from '@/core/drain/profile'
import { ALLOYS, type Alloy } from '../catalogue/alloys'
import { pointOf, type CanBody } from '../catalogue/bay-geometry'
import { MOUNT_FACTS } from '../catalogue/mounts'
import type { Bay, Engine, PartOf } from '../document/schema'

type Mount = NonNullable<Bay['mounts']>[number]
export type MountNear = { readonly m: Mount; readonly awayM: number }

/** Can's metal by its skin, kg/m2; share of its hoses, kg; oil, kg/m3 (estimates). */
const [SKIN, HOSES, OIL] = [5.4, 0.15, 850]
/** Further than this a strip of sheet is no bracket, m (estimate); and where on its body a can is held, as a share of its height. */
export const BRACKET_REACH = 0.35
const HELD_AT = 0.7

/** A can full of oil with its share of the hoses, kg. */
export function fullMassKg(can: PartOf<'can'>, body: Pick<CanBody, 'radiusM' | 'heightM'>): number {
  const skin = 2 * Math.PI * body.radiusM * body.heightM + 2 * Math.PI * body.radiusM ** 2
  return skin * SKIN + can.bowlMl * 1e-6 * OIL + HOSES
}

/** Things that a can may hang on, the nearest first, with their distance from where it is held, m. */
export const mountsNear = (bay: Bay | undefined, { floor, heightM }: Pick<CanBody, 'floor' | 'heightM'>): MountNear[] =>
  (bay?.mounts ?? [])
    .map((m) => ({ m, awayM: awayFrom(pointOf(m), floor, heightM) }))
    .toSorted((a, b) => a.awayM - b.awayM)

const awayFrom = (mount: Point3, [x, y, z]: Point3, heightM: number) =>
  Math.hypot(mount[0] - x, mount[1] - y, mount[2] - z - heightM * HELD_AT)

/** What the mounts bear that a can hangs on: the nearest, with a second within reach beside it, kg. */
export const supportedKg = (mounts: readonly MountNear[]): number =>
  mounts.reduce((sum, { m }) => sum + MOUNT_FACTS[m.kind].carriesKg, 0)

/** The mounts within a bracket's reach that a can hangs on: one, or two. */
export const mountsWithin = (bay: Bay | undefined, body: Pick<CanBody, 'floor' | 'heightM'>): MountNear[] =>
  mountsNear(bay, body)
    .filter((near) => near.awayM <= BRACKET_REACH)
    .slice(0, 2)

/** Width of a bracket's strip, m (estimate). */
export const STRIP_WIDTH = 0.04
/** Clear of resonance by this share of the highest exciting frequency (estimate). */
const CLEAR = 1.2
const THICKNESSES = [2, 3, 4, 5, 6].map((t) => t / 1000)
/** Firing order of a four-stroke: half the cylinders; what shakes most. */
export const firingOrder = (cylinders: number): number => Math.max(0.5, cylinders / 2)

export type Support = {
  readonly thicknessM: number
  readonly supports: 1 | 2
  /** from mount to can, or between the mounts, m */
  readonly freeM: number
  /** first natural frequency, and the engine's firing order from idle to rated speed, Hz */
  readonly ringsHz: number
  readonly engineHz: readonly [idle: number, rated: number]
  readonly rings: 'above' | 'within'
}

/** What hangs, of what sheet its strip is, and from how many mounts at least. */
export type HungCan = { readonly massKg: number; readonly alloy?: Alloy; readonly least?: 1 | 2 }

/** The thinnest strip that does not ring within the engine's speeds, from the first mount, else between the first two; else the stiffest. */
export function supportFor(
  engine: Pick<Engine, 'cylinders' | 'idleRpm' | 'ratedRpm'>,
  [first, second]: readonly Pick<MountNear, 'awayM'>[],
  { massKg, alloy = ALLOYS[0]!, least = 1 }: HungCan,
): Support | undefined {
  if (!first) return undefined
  const hz = (rpm: number) => (rpm / 60) * firingOrder(engine.cylinders)
  const engineHz = [hz(engine.idleRpm), hz(engine.ratedRpm)] as const
  const support = (thicknessM: number, supports: 1 | 2): Support => {
    const freeM = supports === 1 ? Math.max(0.03, first.awayM) : first.awayM + second!.awayM
    const strip = { youngs: alloy.youngs, density: alloy.density, thicknessM, widthM: STRIP_WIDTH }
    const ringsHz = firstFrequency({ ...strip, freeLengthM: freeM, endMassKg: massKg, supports })
    const rings = ringsHz > engineHz[1] * CLEAR ? 'above' : 'within'
    return { thicknessM, supports, freeM, ringsHz, engineHz, rings }
  }
  const tries = [
    ...(least === 1 ? THICKNESSES.map((t) => support(t, 1)) : []),
    ...(second ? THICKNESSES.map((t) => support(t, 2)) : []),
  ]
  return tries.find((s) => s.rings === 'above') ?? tries.at(-1)!
}
