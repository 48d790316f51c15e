/** The way of a line through waypoints: straight runs and arcs. */
import { fail, ok, type Result } from '../result'
import type { Point } from '../drain/profile'

export type Path = {
  /** along the middle of the hose, m */
  readonly lengthM: number
  /** turned at each waypoint between the ends, degrees */
  readonly bendsDeg: readonly number[]
}

const minus = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
const dot = (a: Point, b: Point) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
const sizeOf = (a: Point) => Math.sqrt(dot(a, a))

/**
 * Length and bends of a line with arcs of one radius at its waypoints: sum of the runs - 2 r tan(t/2) + r t at each bend.
 * @param points m, two or more, no two after each other alike
 * @returns fails where tangents of two bends overlap or the line turns back on itself: an error, not a picture
 * @example pathOf([[0, 0, 0], [0.3, 0, 0], [0.3, 0.2, 0]], 0.045).value.bendsDeg // [90]
 */
export function pathOf(points: readonly Point[], radiusM: number): Result<Path> {
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
