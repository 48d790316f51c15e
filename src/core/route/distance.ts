/** Distances of a hose's tube to what stands in its way. */
import type { Point3 } from '../drain/profile'

/**
 * A box along the axes, or a round body in it: its middle and half its size each way, m. Round it stands upright, as wide as it is long; or
 * lies along an axis (0 ahead, 1 left), as thick as it is high.
 */
export type Box = {
  readonly middle: Point3
  readonly half: Point3
  readonly round?: boolean
  readonly along?: 0 | 1 | undefined
}

/**
 * Distance of a point to a box or to the round body in it; 0 inside it, m.
 *
 * @example
 * import { distanceToBox } from '@/core/route/distance'
 *
 * console.log(distanceToBox([2, 0, 0], { middle: [0, 0, 0], half: [0.5, 1, 1] })) // 1.5
 */
export function distanceToBox(p: Point3, { middle, half, round, along }: Box): number {
  const dx = Math.abs(p[0] - middle[0])
  const dy = Math.abs(p[1] - middle[1])
  const dz = Math.abs(p[2] - middle[2])
  if (round && along === 0) return outside(hypotenuse(dy, dz) - half[2], dx - half[0])
  if (round && along === 1) return outside(hypotenuse(dx, dz) - half[2], dy - half[1])
  if (round) return outside(hypotenuse(dx, dy) - half[0], dz - half[2])
  return outside(dx - half[0], dy - half[1], dz - half[2])
}
/** Math.hypot, which takes ten times as long for the sake of sizes that no bay has. */
const hypotenuse = (x: number, y: number, z = 0): number => Math.sqrt(x * x + y * y + z * z)
/** Distance to a corner, edge or face, from how far a point is beyond it along each axis. */
const outside = (x: number, y: number, z = 0): number => hypotenuse(Math.max(0, x), Math.max(0, y), Math.max(0, z))

/**
 * Half the size each way of the box that a body fills, m: a point further off along any axis is further off from the body.
 *
 * @example
 * import { halfExtentOf } from '@/core/route/distance'
 *
 * console.log(halfExtentOf({ middle: [0, 0, 0], half: [0.25, 0.125, 0.5], round: true })) // [ 0.25, 0.25, 0.5 ]
 */
export const halfExtentOf = ({ half, round, along }: Box): Point3 => {
  if (!round) return half
  if (along === 0) return [half[0], half[2], half[2]]
  if (along === 1) return [half[2], half[1], half[2]]
  return [half[0], half[0], half[2]]
}

/**
 * Distance of two points, m.
 *
 * @example
 * import { distanceBetween } from '@/core/route/distance'
 *
 * console.log(distanceBetween([0, 0, 0], [0.03, 0.04, 0])) // 0.05
 */
export const distanceBetween = (a: Point3, b: Point3): number => hypotenuse(a[0] - b[0], a[1] - b[1], a[2] - b[2])

/**
 * Whether a way may come within a distance in m of a body: not where the boxes about both stand further apart along an axis. Quick, before
 * `distanceOfWay`.
 *
 * @example
 * import { mayComeWithin } from '@/core/route/distance'
 *
 * console.log(mayComeWithin(0.05, [[0, 0, 0], [1, 0, 0]], { middle: [0.5, 0.3, 0], half: [0.1, 0.1, 0.1] })) // false
 */
export function mayComeWithin(distance: number, points: readonly Point3[], box: Box): boolean {
  const extent = halfExtentOf(box)
  return extent.every((half, axis) => {
    const [low, high] = [box.middle[axis]! - half - distance, box.middle[axis]! + half + distance]
    return points.some((p) => p[axis]! >= low) && points.some((p) => p[axis]! <= high)
  })
}

/** Ends stand in the parts that they belong to: within this of them nothing is in the way, m. */
export const END_FREE = 0.045
type Least = { readonly least: number; readonly at: Point3 | undefined }

/** Step along a way at which its distance is looked up where it may be the least, m. */
const STEP = 0.002

/**
 * Least distance of a way to a box, to within half a step of 2 mm, and where; Infinity for no points. What lies within `END_FREE` of a point of
 * `free` does not count: an end of a hose that stands on the box.
 *
 * @example
 * import { distanceOfWay } from '@/core/route/distance'
 *
 * console.log(
 *   distanceOfWay(
 *     [
 *       [0, 0, 0],
 *       [1, 0, 0],
 *     ],
 *     { middle: [0.5, 0.3, 0], half: [0.1, 0.1, 0.1] },
 *   ).least,
 * ) // 0.19999999999999998
 */
export function distanceOfWay(points: readonly Point3[], box: Box, free: readonly Point3[] = []): Least {
  let least = Infinity
  let at: Point3 | undefined
  /** how far it may be walked from a point before anything can be nearer than what was found */
  const look = (p: Point3): number => {
    if (free.some((end) => distanceBetween(p, end) < END_FREE)) return STEP
    const d = distanceToBox(p, box)
    if (d < least) [least, at] = [d, p]
    return Math.max(STEP, d - least)
  }
  points.forEach((p, i) => {
    const next = points[i + 1]
    let gone = look(p)
    if (!next) return
    const run = distanceBetween(p, next)
    while (gone < run) {
      const t = gone / run
      gone += look([p[0] + (next[0] - p[0]) * t, p[1] + (next[1] - p[1]) * t, p[2] + (next[2] - p[2]) * t])
    }
  })
  return { least, at }
}

/**
 * Distance of an upright cylinder to a box or the round body in it, m; 0 where they meet. A body that lies round counts as the box round it.
 *
 * @example
 * import { distanceOfCylinder } from '@/core/route/distance'
 *
 * const can = { floor: [0, 0, 0], radiusM: 0.04, heightM: 0.14 } as const
 * console.log(distanceOfCylinder(can, { middle: [0.1, 0, 0.2], half: [0.02, 0.1, 0.02] })) // 0.056568542494923796
 */
export function distanceOfCylinder(
  { floor, radiusM, heightM }: { readonly floor: Point3; readonly radiusM: number; readonly heightM: number },
  { middle, half, round, along }: Box,
): number {
  const dx = Math.abs(floor[0] - middle[0])
  const dy = Math.abs(floor[1] - middle[1])
  const beside = round && along === undefined ? hypotenuse(dx, dy) - half[0] : outside(dx - half[0], dy - half[1])
  const over = Math.max(floor[2] - middle[2] - half[2], middle[2] - half[2] - floor[2] - heightM)
  return outside(beside - radiusM, over)
}

/** Distance of two runs, and the point of the first where they are nearest: Ericson, Real-Time Collision Detection, 5.1.9. */
function betweenRuns(p1: Point3, q1: Point3, p2: Point3, q2: Point3): { readonly d: number; readonly at: Point3 } {
  const minus = (a: Point3, b: Point3): Point3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
  const dot = (a: Point3, b: Point3) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
  const clamp = (x: number) => Math.max(0, Math.min(1, x))
  const [d1, d2, r] = [minus(q1, p1), minus(q2, p2), minus(p1, p2)]
  const [a, e, f, c, b] = [dot(d1, d1), dot(d2, d2), dot(d2, r), dot(d1, r), dot(d1, d2)]
  let s = 0
  let t = 0
  if (a > 0 && e > 0) {
    const denominator = a * e - b * b
    s = denominator > 1e-18 ? clamp((b * f - c * e) / denominator) : 0
    t = (b * s + f) / e
    if (t < 0 || t > 1) {
      t = clamp(t)
      s = clamp((b * t - c) / a)
    }
  } else if (a > 0) s = clamp(-c / a)
  else if (e > 0) t = clamp(f / e)
  const at: Point3 = [p1[0] + d1[0] * s, p1[1] + d1[1] * s, p1[2] + d1[2] * s]
  const other: Point3 = [p2[0] + d2[0] * t, p2[1] + d2[1] * t, p2[2] + d2[2] * t]
  return { d: Math.sqrt(dot(minus(at, other), minus(at, other))), at }
}

/**
 * Least distance of two ways from middle to middle, m, and where on the first; Infinity where one has fewer than two points.
 *
 * @example
 * import { distanceOfWays } from '@/core/route/distance'
 *
 * console.log(distanceOfWays([[0, 0, 0], [1, 0, 0]], [[0.5, -1, 0.2], [0.5, 1, 0.2]]).least) // 0.2
 */
export function distanceOfWays(one: readonly Point3[], other: readonly Point3[]): Least {
  let least = Infinity
  let at: Point3 | undefined
  for (let i = 1; i < one.length; i++)
    for (let k = 1; k < other.length; k++) {
      const near = betweenRuns(one[i - 1]!, one[i]!, other[k - 1]!, other[k]!)
      if (near.d >= least) continue
      least = near.d
      at = near.at
    }
  return { least, at }
}

/**
 * Height of a surface known at a few points, m, weighted by the inverse square of their distance in plan (Shepard,
 * 1968); undefined without any.
 *
 * @example
 * import { heightAt } from '@/core/route/distance'
 *
 * console.log(heightAt([[0, 0, 1], [1, 0, 3]], 0.5, 0)) // 2
 */
export function heightAt(known: readonly Point3[], x: number, y: number): number | undefined {
  let [sum, weights] = [0, 0]
  for (const [px, py, pz] of known) {
    const d2 = (px - x) ** 2 + (py - y) ** 2
    if (d2 < 1e-12) return pz
    sum += pz / d2
    weights += 1 / d2
  }
  return weights > 0 ? sum / weights : undefined
}
