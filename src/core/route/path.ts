/** The way of a line through waypoints: straight runs and arcs. */
import type { Point3 } from '../drain/profile'
import { fail, ok, type Result } from '../result'

export type RoutePath = {
  /** along the middle of the hose, m */
  readonly lengthM: number
  /** turned at each waypoint between the ends, degrees */
  readonly bendsDeg: readonly number[]
}

const minus = (a: Point3, b: Point3): Point3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
const plus = (a: Point3, b: Point3, times: number): Point3 => [
  a[0] + b[0] * times,
  a[1] + b[1] * times,
  a[2] + b[2] * times,
]
const dot = (a: Point3, b: Point3) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
const cross = (a: Point3, b: Point3): Point3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
]
const sizeOf = (a: Point3) => Math.sqrt(dot(a, a))
const unit = (a: Point3): Point3 => plus([0, 0, 0], a, 1 / (sizeOf(a) || 1))

/**
 * Angle between two directions, degrees; 0 for one that has no size.
 *
 * @example
 * import { turnBetween } from '@/core/route/path'
 *
 * console.log(turnBetween([1, 0, 0], [0, 2, 0])) // 90
 */
export function turnBetween(a: Point3, b: Point3): number {
  const size = sizeOf(a) * sizeOf(b)
  return size > 0 ? (Math.acos(Math.max(-1, Math.min(1, dot(a, b) / size))) * 180) / Math.PI : 0
}

/**
 * Length and bends of a line with arcs of one radius at its waypoints: sum of the runs - 2 r tan(t/2) + r t at each bend.
 * @param points m, two or more, no two after each other alike
 * @returns fails where tangents of two bends overlap or the line turns back on itself: an error, not a picture
 *
 * @example
 * import { pathOf } from '@/core/route/path'
 *
 * console.log(pathOf([[0, 0, 0], [0.3, 0, 0], [0.3, 0.2, 0]], 0.045).value.bendsDeg) // [ 90 ]
 */
export function pathOf(points: readonly Point3[], radiusM: number): Result<RoutePath> {
  const runs = points.slice(1).map((p, i) => minus(p, points[i]!))
  const straight = runs.map(sizeOf)
  if (runs.length === 0 || straight.some((l) => !(l > 0)))
    return fail('A line needs two points or more, no two after each other at one place.')
  const turns = runs.slice(1).map((run, i) => {
    const cosine = dot(run, runs[i]!) / (straight[i]! * straight[i + 1]!)
    return Math.acos(Math.max(-1, Math.min(1, cosine)))
  })
  const tangents = turns.map((t) => radiusM * Math.tan(t / 2))
  const back = turns.findIndex((t) => t > Math.PI - 1e-6)
  if (back >= 0) return fail(`The line turns back on itself at waypoint ${back + 1}.`, String(back + 1))
  const short = straight.findIndex((l, i) => (tangents[i - 1] ?? 0) + (tangents[i] ?? 0) > l + 1e-9)
  if (short >= 0)
    return fail(
      `The run after point ${short + 1} is too short for its bends: they need ${Math.ceil(1000 * ((tangents[short - 1] ?? 0) + (tangents[short] ?? 0)))} mm.`,
      String(short + 1),
    )
  const bends = turns.reduce((sum, t, i) => sum - 2 * tangents[i]! + radiusM * t, 0)
  return ok({
    lengthM: straight.reduce((sum, l) => sum + l, 0) + bends,
    bendsDeg: turns.map((t) => (t * 180) / Math.PI),
  })
}

/** Points to a right angle of an arc. */
const ARC_POINTS = 8
/** A turn beyond this, in radians, is a turn back. */
const MOST_TURN = 3

/**
 * The same way as points on its runs and arcs, m: what a tube along it really touches. Corners whose tangents would overlap are cut as far
 * as their runs allow.
 *
 * @example
 * import { roundedWay } from '@/core/route/path'
 *
 * console.log(roundedWay([[0, 0, 0], [1, 0, 0]], 0.1).length) // 2
 */
export function roundedWay(points: readonly Point3[], radiusM: number): readonly Point3[] {
  const [first, last] = [points[0], points.at(-1)]
  if (!first || !last || points.length < 3) return points
  const out: Point3[] = [first]
  for (let i = 1; i < points.length - 1; i++) {
    const [a, p, b] = [points[i - 1]!, points[i]!, points[i + 1]!]
    const [back, on] = [unit(minus(a, p)), unit(minus(b, p))]
    const turn = Math.PI - (turnBetween(back, on) * Math.PI) / 180
    // a run between two bends is shared by them
    const shares = [i === 1 ? 1 : 0.5, i === points.length - 2 ? 1 : 0.5] as const
    const room = Math.min(sizeOf(minus(a, p)) * shares[0], sizeOf(minus(b, p)) * shares[1])
    const half = Math.min(turn, MOST_TURN) / 2
    const tangent = Math.min(radiusM * Math.tan(half), room)
    if (turn < 1e-3 || !(tangent > 0)) {
      out.push(p)
      continue
    }
    const r = tangent / Math.tan(half)
    const middle = plus(p, unit(plus(back, on, 1)), r / Math.cos(half))
    const start = plus(p, back, tangent)
    const spoke = minus(start, middle)
    const steps = Math.max(1, Math.ceil((turn / (Math.PI / 2)) * ARC_POINTS))
    for (let k = 0; k <= steps; k++) {
      const t = (turn * k) / steps
      // from the first tangent point, on along the run and round
      out.push(plus(plus(middle, spoke, Math.cos(t)), back, -r * Math.sin(t)))
    }
  }
  out.push(last)
  return out
}

/**
 * Clocking of one end of a hose to the other, degrees 0 to 180: the angle between the planes of two bent ends, carried along the hose
 * without twisting it; 0 where an end is straight.
 * @param points of the hose, m, two or more; `from` and `to` the directions in which the ports point, away from their parts
 *
 * @example
 * import { clocking } from '@/core/route/path'
 *
 * console.log(Math.round(clocking([[0, 0, 0], [1, 0, 0]], [0, 0, 1], [0, 1, 0]))) // 90
 */
export function clocking(points: readonly Point3[], from: Point3, to: Point3): number {
  const runs = points.slice(1).map((p, i) => unit(minus(p, points[i]!)))
  const [first, last] = [runs[0], runs.at(-1)]
  if (!first || !last) return 0
  const across = (v: Point3, axis: Point3): Point3 => plus(v, axis, -dot(v, axis))
  let carried = across(from, first)
  if (sizeOf(carried) < 1e-6 || sizeOf(across(to, last)) < 1e-6) return 0
  for (let i = 1; i < runs.length; i++) {
    const [a, b] = [runs[i - 1]!, runs[i]!]
    const axis = cross(a, b)
    const sine = sizeOf(axis)
    if (sine < 1e-9) continue
    const k = unit(axis)
    const cosine = dot(a, b)
    // Rodrigues' rotation by the bend
    carried = plus(plus(plus([0, 0, 0], carried, cosine), cross(k, carried), sine), k, dot(k, carried) * (1 - cosine))
  }
  return turnBetween(carried, across(to, last))
}
