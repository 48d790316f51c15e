/** Distances of a hose's tube to what stands in its way. */
import type { Point } from '../drain/profile'

/** A box along the axes: its middle and half its size each way, m. */
export type Box = { readonly middle: Point; readonly half: Point }

/**
 * Distance of a point to a box, m; 0 inside it.
 * @example distanceToBox([2, 0, 0], { middle: [0, 0, 0], half: [0.5, 1, 1] }) // 1.5
 */
export function distanceToBox(p: Point, { middle, half }: Box): number {
  const out = [0, 1, 2].map((k) => Math.max(0, Math.abs(p[k]! - middle[k]!) - half[k]!))
  return Math.hypot(...out)
}

/** Step along a run at which its distance is looked up, m. */
const STEP = 0.005

/**
 * Least distance of a way to a box, to within half a step of 5 mm, and where; Infinity for no points.
 * @example distanceOfWay([[0, 0, 0], [1, 0, 0]], { middle: [0.5, 0.3, 0], half: [0.1, 0.1, 0.1] }).least // 0.2
 */
export function distanceOfWay(
  points: readonly Point[],
  box: Box,
): { readonly least: number; readonly at: Point | undefined } {
  let least = Infinity
  let at: Point | undefined
  const see = (p: Point) => {
    const d = distanceToBox(p, box)
    if (d >= least) return
    least = d
    at = p
  }
  points.forEach((p, i) => {
    see(p)
    const next = points[i + 1]
    if (!next) return
    const run = Math.hypot(next[0] - p[0], next[1] - p[1], next[2] - p[2])
    const steps = Math.min(2000, Math.ceil(run / STEP))
    for (let k = 1; k < steps; k++) {
      const t = k / steps
      see([p[0] + (next[0] - p[0]) * t, p[1] + (next[1] - p[1]) * t, p[2] + (next[2] - p[2]) * t])
    }
  })
  return { least, at }
}

/**
 * Height of a surface known at a few points, m, weighted by the inverse square of their distance in plan (Shepard,
 * 1968); undefined without any.
 * @example heightAt([[0, 0, 1], [1, 0, 3]], 0.5, 0) // 2
 */
export function heightAt(known: readonly Point[], x: number, y: number): number | undefined {
  let [sum, weights] = [0, 0]
  for (const [px, py, pz] of known) {
    const d2 = (px - x) ** 2 + (py - y) ** 2
    if (d2 < 1e-12) return pz
    sum += pz / d2
    weights += 1 / d2
  }
  return weights > 0 ? sum / weights : undefined
}
