/** A way for a hose through a bay: cells of a grid shortened and rounded, or few corners where bends are wide. */
import type { Point3 } from '../drain/profile'
import { scaled, type Job } from '../job'
import { fail, ok, type Result } from '../result'
import { distanceBetween } from './distance'
import { GRID_STEP, gridOver, MOST_NODES, search, type GridSearch } from './grid'
import { pathOf } from './path'
import { blockerAlong, lerp, blockerName, hoseRoomOf, type RouteRequest, type RoutingBay, type HoseRoom } from './room'

/** Cost of a turn of the way, as metres of hose: ends and bends are what is made. */
const TURN_COST = 0.02
/** Room beyond what is asked that is tried for, m, most first; a way hardly longer than straight needs no further look. */
const SPARES = [0.05, 0.025, 0]
const NEARLY_STRAIGHT = 1.15
/** How often a corner is pushed out, and by how much, until its arc is clear, m. */
const [PUSHES, PUSH] = [10, 0.02]

const fallsAll = (points: readonly Point3[]) => points.every((p, i) => i === 0 || p[2] < points[i - 1]![2])

/** Straight where it can be: each point leads to the furthest that it sees. */
function shortened(
  space: HoseRoom,
  points: readonly Point3[],
  { falls, spare }: { falls: boolean; spare: number },
): Point3[] {
  const sees = (a: Point3, b: Point3) => (!falls || b[2] < a[2]) && blockerAlong(space, [a, b], 0, spare) === undefined
  const out = [points[0]!]
  for (let i = 0; i < points.length - 1;) {
    let k = points.length - 1
    while (k > i + 1 && !sees(points[i]!, points[k]!)) k--
    out.push(points[k]!)
    i = k
  }
  return out
}

/** Whether a hose may be led so: its bends fit, nothing is in its way, and a drain falls. */
const holds = (space: HoseRoom, points: readonly Point3[], { radiusM, falls }: RouteRequest): boolean =>
  (!falls || fallsAll(points)) && pathOf(points, radiusM).ok && blockerAlong(space, points, radiusM) === undefined

/** Corners pushed outwards until their arcs are clear and their tangents fit. */
function bent(space: HoseRoom, points: readonly Point3[], wish: RouteRequest): readonly Point3[] | undefined {
  const { radiusM, falls } = wish
  let now = points
  for (let round = 0; round <= PUSHES; round++) {
    if (holds(space, now, wish)) return now
    // a corner whose run is too short goes, if the way without it is clear
    const fewer = now.flatMap((_, i) => {
      if (i === 0 || i === now.length - 1) return []
      const without = now.filter((_p, k) => k !== i)
      return blockerAlong(space, without, radiusM) === undefined && (!falls || fallsAll(without)) ? [without] : []
    })
    if (fewer.length > 0) {
      now = fewer[0]!
      continue
    }
    now = now.map((p, i) => {
      if (i === 0 || i === now.length - 1) return p
      const middle = lerp(now[i - 1]!, now[i + 1]!, 0.5)
      const away = distanceBetween(p, middle)
      const to = away > 1e-6 ? lerp(middle, p, 1 + PUSH / away) : p
      return falls ? ([to[0], to[1], p[2]] as Point3) : to
    })
  }
  return undefined
}

const costOf = (points: readonly Point3[]) =>
  points.reduce((sum, p, i) => sum + (i === 0 ? 0 : distanceBetween(points[i - 1]!, p)), 0) +
  TURN_COST * (points.length - 2)

/** How coarsely corners are tried where the shortest way cannot bend so, m; how many of the nearest, and of those how many in pairs. */
const [CORNER_STEP, CORNERS, PAIRED] = [0.06, 1500, 50]

/** Ways of one corner and of two over all corners of a coarse grid, the cheapest that holds: wide bends want few and long runs. */
function* fewCorners({ space, wish, grid }: GridSearch): Job<readonly Point3[] | undefined> {
  const { from, to } = wish
  const [nx, ny, nz] = grid.size.map((n) => Math.floor(((n - 1) * GRID_STEP) / CORNER_STEP) + 1) as [
    number,
    number,
    number,
  ]
  const all: Point3[] = []
  for (let i = 0; i < nx * ny * nz; i++)
    all.push([
      grid.low[0] + (i % nx) * CORNER_STEP,
      grid.low[1] + (Math.floor(i / nx) % ny) * CORNER_STEP,
      grid.low[2] + Math.floor(i / (nx * ny)) * CORNER_STEP,
    ])
  const order = all.toSorted(
    (a, b) => distanceBetween(from, a) + distanceBetween(a, to) - distanceBetween(from, b) - distanceBetween(b, to),
  )
  // a first look: does the run from either end to the corner pass, its bend left out
  const fromHere: Point3[] = []
  const toThere: Point3[] = []
  for (const [i, c] of order.slice(0, CORNERS).entries()) {
    if (i % 400 === 0) yield i / CORNERS / 2
    const first = blockerAlong(space, [from, lerp(from, c, 0.9)], 0) === undefined
    if (!first && toThere.length >= PAIRED) continue
    const last = blockerAlong(space, [lerp(c, to, 0.1), to], 0) === undefined
    if (first && last && holds(space, [from, c, to], wish)) return [from, c, to]
    if (first && fromHere.length < PAIRED) fromHere.push(c)
    if (last && toThere.length < PAIRED) toThere.push(c)
  }
  let best: readonly Point3[] | undefined
  for (const [i, a] of fromHere.entries()) {
    yield 0.5 + i / fromHere.length / 2
    for (const b of toThere) {
      const way = [from, a, b, to]
      if (a === b || (best && costOf(way) >= costOf(best))) continue
      if (holds(space, way, wish)) best = way
    }
  }
  return best
}

/**
 * Waypoints between the ends of a hose, so that its tube keeps clear of everything, bends no tighter than it may and, for a drain, falls
 * all the way. Ends are not among them. Yields the share done.
 * @returns fails with what is in the way
 *
 * @example
 * import { findWay } from '@/core/route/find'
 * import { finish } from '@/core/job'
 *
 * console.log(
 *   finish(findWay({ boxes: [], ceiling: () => 1 }, { from: [0, 0, 0.4], to: [1, 0, 0], radiusM: 0.1, falls: true }))
 *     .value,
 * ) // []
 */
export function* findWay(bay: RoutingBay, wish: RouteRequest): Job<Result<readonly Point3[]>> {
  const { from, to, falls, radiusM } = wish
  if (![...from, ...to, radiusM].every(Number.isFinite) || !(distanceBetween(from, to) > 0))
    return fail('Both ends have to be measured, and stand apart.')
  if (falls && !(to[2] < from[2])) return fail('A drain cannot fall: its end stands no lower than its beginning.')
  const space = hoseRoomOf(bay, wish)
  const direct = blockerAlong(space, [from, to], radiusM)
  if (direct === undefined) return ok([])
  const grid = gridOver(bay, wish)
  const count = grid.size[0] * grid.size[1] * grid.size[2]
  if (count > MOST_NODES) return fail('These ends are too far apart to search between.')
  const ground: GridSearch = {
    space,
    wish,
    grid,
    field: { room: new Float32Array(count).fill(NaN), by: new Int16Array(count) },
  }
  let best: readonly Point3[] | undefined
  let passes = false
  let reason: Result<readonly Point3[]> | undefined
  // with room to spare first, where it is to be had
  for (const spare of SPARES) {
    const found = yield* scaled(search(ground, spare), 0, 0.5)
    if (!found.ok) {
      reason = found
      continue
    }
    passes = true
    const way = bent(space, shortened(space, found.value, { falls, spare }), wish)
    if (way && (!best || costOf(way) < costOf(best))) best = way
    if (best && costOf(best) < NEARLY_STRAIGHT * distanceBetween(from, to)) break
  }
  if (!best && passes) best = yield* scaled(fewCorners(ground), 0.5, 0.5)
  if (best) return ok(best.slice(1, -1))
  if (!passes && reason?.ok === false) return reason
  const met = blockerName(space, direct)
  return fail(
    `There is room for a hose to pass, but not for its bends of ${Math.round(radiusM * 1000)} mm: straight from end to end it meets ${met}.`,
    met,
  )
}
