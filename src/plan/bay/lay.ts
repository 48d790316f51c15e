/** How a line lies in the bay: from port to port by its points, with straight or bent ends, its length and bends. */
import type { Point3 } from '@/core/drain/profile'
import { fail, ok, type Result } from '@/core/result'
import { clocking, pathOf, roundedWay, turnBetween, type RoutePath } from '@/core/route/path'
import type { Bay, Line, Variant } from '../document/schema'
import { bendRadius, endPlace, pointOf, type EndPlace } from '../catalogue/bay-geometry'

/** Angles that hose ends are made in, degrees. */
const END_ANGLES = [30, 45, 60, 90, 120, 150] as const
/** A hose leaves a straight end by itself up to this turn, and straight for this far at least, m. */
const [BY_ITSELF, LEAD] = [10, 0.03]
/** Bends that leave no trace in a cut length, degrees. */
const STRAIGHT = 1

/** Least length between two bent ends, m: two sockets, and a hand's width of hose between them (common practice, no source). */
export const LEAST_BENT = 0.12

export type Lay = RoutePath & {
  /** corners from port to port, those of straight leads among them */
  readonly corners: readonly Point3[]
  /** the middle of the hose with its arcs */
  readonly middle: readonly Point3[]
  /** turn of the hose end at either port, degrees; 0 straight */
  readonly endsDeg: readonly [from: number, to: number]
  /** of one bent end to the other, degrees; undefined where an end is straight */
  readonly clockingDeg: number | undefined
  /** a bend of the hose that a straight end would need more room for */
  readonly radiusM: number
}

/**
 * Points of a line from end to end; undefined while one of its ends is not measured.
 *
 * @example
 * import { wayOf } from '@/plan/bay/lay'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const [variant] = build.variants
 * console.log(wayOf(undefined, variant, variant.lines[0])) // undefined
 */
export function wayOf(bay: Bay | undefined, variant: Variant, line: Line): readonly Point3[] | undefined {
  const [from, to] = [endPlace(bay, variant, line.from), endPlace(bay, variant, line.to)]
  return from && to && [from.at, ...(line.way ?? []).map(pointOf), to.at]
}

const minus = (a: Point3, b: Point3): Point3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
const along = (p: Point3, by: Point3, m: number): Point3 => [p[0] + by[0] * m, p[1] + by[1] * m, p[2] + by[2] * m]

/** Ways to make one end: the hose bends by itself after a straight lead, or the end is bent. */
function endings({ at, points }: EndPlace, next: Point3, radiusM: number): { lead: Point3 | undefined; deg: number }[] {
  if (!points) return [{ lead: undefined, deg: 0 }]
  const turn = turnBetween(points, minus(next, at))
  if (turn <= BY_ITSELF) return [{ lead: undefined, deg: 0 }]
  const tangent = radiusM * Math.tan((Math.min(turn, 150) * Math.PI) / 360)
  const bent = END_ANGLES.toSorted((a, b) => Math.abs(a - turn) - Math.abs(b - turn))[0]!
  const itself = { lead: along(at, points, tangent + LEAD), deg: 0 }
  return turn < 60 ? [itself, { lead: undefined, deg: bent }] : [{ lead: undefined, deg: bent }, itself]
}

/**
 * The lay of a line, straight ends before bent ones where the turn is small; fails with the reason why it cannot lie so.
 *
 * @example
 * import { layOf } from '@/plan/bay/lay'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const [variant] = build.variants
 * console.log(layOf(undefined, variant, variant.lines[0])) // { ok: false, reason: 'One of its ends has not been measured yet.', at: undefined }
 */
export function layOf(bay: Bay | undefined, variant: Variant, line: Line): Result<Lay> {
  const [from, to] = [endPlace(bay, variant, line.from), endPlace(bay, variant, line.to)]
  if (!from || !to) return fail('One of its ends has not been measured yet.')
  const radiusM = bendRadius(line.boreMm / 1000)
  const points = (line.way ?? []).map(pointOf)
  let reason: Result<Lay> | undefined
  for (const a of endings(from, points[0] ?? to.at, radiusM))
    for (const b of endings(to, points.at(-1) ?? from.at, radiusM)) {
      const corners = [from.at, ...(a.lead ? [a.lead] : []), ...points, ...(b.lead ? [b.lead] : []), to.at]
      const path = pathOf(corners, radiusM)
      if (!path.ok) {
        reason ??= path
        continue
      }
      const bent = a.deg > 0 && b.deg > 0
      return ok({
        ...path.value,
        corners,
        middle: roundedWay(corners, radiusM),
        endsDeg: [a.deg, b.deg],
        clockingDeg: bent ? clocking(corners, from.points!, to.points!) : undefined,
        radiusM,
      })
    }
  return reason!
}

/** Lines of a plan with the lengths, bends and bent ends that the bay gives them; one whose way is not known keeps what was entered. */
export function withLengths(bay: Bay | undefined, variant: Variant): Variant {
  const lines = variant.lines.map((line) => {
    if (line.kind === 'direct') return line
    const lay = layOf(bay, variant, line)
    if (!lay.ok) return line
    const radiusMm = Math.round(lay.value.radiusM * 1000)
    const bends = lay.value.bendsDeg
      .filter((d) => d > STRAIGHT)
      .map((angleDeg) => ({ angleDeg: Math.round(angleDeg), radiusMm }))
    const arcs = bends.reduce((sum, b) => sum + (b.angleDeg * Math.PI * b.radiusMm) / 180, 0)
    const end = (e: Line['from'], deg: number, known: boolean) =>
      known ? { ...e, elbowDeg: deg > 0 ? deg : undefined } : e
    const [from, to] = [endPlace(bay, variant, line.from), endPlace(bay, variant, line.to)]
    return {
      ...line,
      lengthMm: Math.max(0, Math.round(lay.value.lengthM * 1000 - arcs)),
      bends,
      riseMm: from && to ? Math.round((to.at[2] - from.at[2]) * 1000) : line.riseMm,
      from: end(line.from, lay.value.endsDeg[0], from?.points !== undefined),
      to: end(line.to, lay.value.endsDeg[1], to?.points !== undefined),
    }
  })
  return { ...variant, lines }
}
