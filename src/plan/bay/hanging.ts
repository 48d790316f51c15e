/** What a can weighs full, and what it hangs on in the bay. */
import { canBody, pointOf, type CanBody } from '../catalogue/bay-geometry'
import { MOUNT_FACTS } from '../catalogue/mounts'
import type { Bay, PartOf } from '../document/schema'

type Mount = NonNullable<Bay['mounts']>[number]
export type MountNear = { readonly m: Mount; readonly awayM: number }

/** Can's metal by its skin, kg/m2; share of its hoses, kg; oil, kg/m3 (estimates). */
const [SKIN, HOSES, OIL] = [5.4, 0.15, 850]
/** Further than this a strip of sheet is no bracket, m; and where on its body a can is held, as a share of its height. */
export const BRACKET_REACH = 0.6
const HELD_AT = 0.7

/** A can full of oil with its share of the hoses, kg. */
export function fullMassKg(can: PartOf<'can'>, body: CanBody): number {
  const skin = 2 * Math.PI * body.radiusM * body.heightM + 2 * Math.PI * body.radiusM ** 2
  return skin * SKIN + can.bowlMl * 1e-6 * OIL + HOSES
}

/** Things that a can may hang on, the nearest first, with their distance from where it is held, m. */
export const mountsNear = (bay: Bay | undefined, { floor, heightM }: CanBody): MountNear[] =>
  (bay?.mounts ?? [])
    .map((m) => ({
      m,
      awayM: Math.hypot(...pointOf(m).map((v, k) => v - (k === 2 ? floor[2] + heightM * HELD_AT : floor[k]!))),
    }))
    .toSorted((a, b) => a.awayM - b.awayM)

/** What the mounts bear that a can hangs on: the nearest, with a second within reach beside it, kg. */
export const borneKg = (mounts: readonly MountNear[]): number =>
  mounts.reduce((sum, { m }) => sum + MOUNT_FACTS[m.kind].carriesKg, 0)

/** A can of the bay with its weight and what it hangs on; undefined where it has no place yet, or nothing is near to hang it on. */
export function hangingOf(
  bay: Bay | undefined,
  can: PartOf<'can'>,
): { readonly massKg: number; readonly on: readonly MountNear[]; readonly bornKg: number } | undefined {
  const body = canBody(bay, can)
  if (!body) return undefined
  const on = mountsNear(bay, body)
    .filter((near) => near.awayM <= BRACKET_REACH)
    .slice(0, 2)
  if (on.length === 0) return undefined
  return { massKg: fullMassKg(can, body), on, bornKg: borneKg(on) }
}
