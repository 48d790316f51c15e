/** Room for a hose in a bay: what it would come too near to along a way, the bodies that its own ends stand on left out. */
import type { Point3 } from '../drain/profile'
import { distanceBetween, distanceToBox, END_FREE, halfExtentOf, type Box } from './distance'
import { roundedWay } from './path'

/** Something in the bay, and how far the middle of a hose keeps from it, m. */
export type Obstacle = { readonly name: string; readonly box: Box; readonly keepM: number }
export type RoutingBay = {
  /** what to keep from, and how far the middle of the hose stays from it, m */
  readonly boxes: readonly Obstacle[]
  /** highest that the middle of the hose may go over a place, m; undefined where nothing is over it */
  readonly ceiling: (x: number, y: number) => number | undefined
}
/** A way that is wanted. */
export type RouteRequest = {
  readonly from: Point3
  readonly to: Point3
  /** least bend radius, m */
  readonly radiusM: number
  /** a drain: falls from `from` to `to` all the way */
  readonly falls: boolean
}

/** What leaves the least room where no box does: nothing, or the bonnet. */
const NOTHING = -1
export const BONNET = -2
/** Step of a look where there is little room, m; how steep a bonnet may be, as run over slope. */
const [CLOSE, SLOPE] = [0.004, 0.5]

/** A point so far of the way from one to another. */
export const lerp = (a: Point3, b: Point3, t: number): Point3 => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
]

/** A bay with the ends of one hose in it: what an end stands on or near to is not in the way within `END_FREE` of it. */
export type HoseRoom = Pick<RoutingBay, 'ceiling'> & {
  readonly boxes: readonly (Obstacle & { readonly free: readonly Point3[]; readonly halfExtent: Point3 })[]
  /** ends that stand higher than a hose may go */
  readonly above: readonly Point3[]
}
/** The bay as one hose sees it. */
export function hoseRoomOf(bay: RoutingBay, { from, to }: Pick<RouteRequest, 'from' | 'to'>): HoseRoom {
  const ends = [from, to]
  return {
    ceiling: bay.ceiling,
    boxes: bay.boxes.map((b) => ({
      ...b,
      free: ends.filter((end) => distanceToBox(end, b.box) < b.keepM),
      halfExtent: halfExtentOf(b.box),
    })),
    above: ends.filter((end) => (bay.ceiling(end[0], end[1]) ?? Infinity) < end[2]),
  }
}
const isNear = (p: Point3, ends: readonly Point3[]) => ends.some((end) => distanceBetween(p, end) < END_FREE)

/** Room round a point beyond what is asked, m, what leaves the least, and how far from it that may be relied on. */
export type Room = { readonly m: number; readonly by: number; readonly step: number }
/** Room round a point for the middle of a hose. */
export function roomFrom(space: HoseRoom, p: Point3): Room {
  let [m, by, step] = [Infinity, NOTHING, Infinity]
  for (let k = 0; k < space.boxes.length; k++) {
    const { box, keepM, free, halfExtent } = space.boxes[k]!
    // most boxes are further off along one axis than the nearest so far
    const { middle } = box
    const near = m + keepM
    if (Math.abs(p[0] - middle[0]) - halfExtent[0] > near) continue
    if (Math.abs(p[1] - middle[1]) - halfExtent[1] > near) continue
    if (Math.abs(p[2] - middle[2]) - halfExtent[2] > near) continue
    const room = distanceToBox(p, box) - keepM
    if (room >= m) continue
    if (isNear(p, free)) step = CLOSE
    else [m, by] = [room, k]
  }
  const over = (space.ceiling(p[0], p[1]) ?? Infinity) - p[2]
  // a bonnet that slopes is nearer than what is over a point
  if (over < 0 && isNear(p, space.above)) return { m, by, step: CLOSE }
  return over < 0 ? { m: over, by: BONNET, step: CLOSE } : { m, by, step: Math.min(step, m, over * SLOPE) }
}

/** What the tube meets along a way with its arcs, nearer than what is asked and `spare`; undefined when it is clear. */
export function blockerAlong(
  space: HoseRoom,
  points: readonly Point3[],
  radiusM: number,
  spare = 0,
): number | undefined {
  const way = radiusM > 0 ? roundedWay(points, radiusM) : points
  // as far as there is room nothing can be met: the next look is taken there
  let skip = 0
  for (let i = 1; i < way.length; i++) {
    const [a, b] = [way[i - 1]!, way[i]!]
    const run = distanceBetween(a, b)
    let at = skip
    while (at <= run) {
      const { m, by, step } = roomFrom(space, run > 0 ? lerp(a, b, at / run) : a)
      if (m < spare) return by
      at += Math.max(CLOSE, step - spare)
    }
    skip = at - run
  }
  const { m, by } = roomFrom(space, way.at(-1)!)
  return m < spare ? by : undefined
}
/** Name of a blocker, for a sentence. */
export const blockerName = (space: HoseRoom, k: number): string => (k === BONNET ? 'the bonnet' : space.boxes[k]!.name)

/**
 * Name of what a hose meets on a way with its arcs, from its first point to its last; undefined when it is clear.
 *
 * @example
 * import { boxInWay } from '@/core/route/room'
 *
 * const wall = { name: 'wall', box: { middle: [0.5, 0, 0], half: [0.1, 0.1, 0.1] }, keepM: 0.01 } as const
 * console.log(
 *   boxInWay({ boxes: [wall], ceiling: () => undefined }, [[0, 0, 0], [1, 0, 0]], 0.1),
 * ) // 'wall'
 */
export function boxInWay(bay: RoutingBay, points: readonly Point3[], radiusM: number): string | undefined {
  const space = hoseRoomOf(bay, { from: points[0]!, to: points.at(-1)! })
  const met = blockerAlong(space, points, radiusM)
  return met === undefined ? undefined : blockerName(space, met)
}
