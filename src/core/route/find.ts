/** A way for a hose through a bay: a search over a grid of free places, then shortened and rounded. */
import type { Point3 } from '../drain/profile'
import { scaled, type Job } from '../job'
import { fail, ok, type Result } from '../result'
import { distanceToBox, END_FREE, type Box } from './distance'
import { pathOf, roundedWay } from './path'

export type Obstacle = { readonly name: string; readonly box: Box; readonly keepM: number }
export type RoutingBay = {
  /** what to keep from, and how far the middle of the hose stays from it, m */
  readonly boxes: readonly Obstacle[]
  /** highest that the middle of the hose may go over a place, m; undefined where nothing is over it */
  readonly ceiling: (x: number, y: number) => number | undefined
}
export type RouteRequest = {
  readonly from: Point3
  readonly to: Point3
  /** least bend radius, m */
  readonly radiusM: number
  /** a drain: falls from `from` to `to` all the way */
  readonly falls: boolean
}

/** Grid, m, and how far beyond ends and obstacles it reaches. */
const [STEP, REACH] = [0.03, 0.18]
const MOST_NODES = 220_000
const [NOTHING, BONNET] = [-1, -2]
/** Step of a look where there is little room, m; how steep a bonnet may be, as run over slope. */
const [CLOSE, SLOPE] = [0.004, 0.5]
/** Cost of a turn of the way, as metres of hose: ends and bends are what is made. */
const TURN_COST = 0.02
/** Room beyond what is asked that is tried for, m, most first; a way hardly longer than straight needs no further look. */
const SPARES = [0.05, 0.025, 0]
const NEARLY_STRAIGHT = 1.15
/** How often a corner is pushed out, and by how much, until its arc is clear, m. */
const [PUSHES, PUSH] = [10, 0.02]

const lerp = (a: Point3, b: Point3, t: number): Point3 => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
]
const distance = (a: Point3, b: Point3) => Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2])

/** A bay with the ends of one hose in it: what an end stands on or near to is not in the way within `END_FREE` of it. */
type Space = Pick<RoutingBay, 'ceiling'> & {
  readonly boxes: readonly (Obstacle & { readonly free: readonly Point3[] })[]
  /** ends that stand higher than a hose may go */
  readonly above: readonly Point3[]
}
function spaceOf(bay: RoutingBay, { from, to }: Pick<RouteRequest, 'from' | 'to'>): Space {
  const ends = [from, to]
  return {
    ceiling: bay.ceiling,
    boxes: bay.boxes.map((b) => ({ ...b, free: ends.filter((end) => distanceToBox(end, b.box) < b.keepM) })),
    above: ends.filter((end) => (bay.ceiling(end[0], end[1]) ?? Infinity) < end[2]),
  }
}
const isNear = (p: Point3, ends: readonly Point3[]) => ends.some((end) => distance(p, end) < END_FREE)

/** Room round a point beyond what is asked, m, what leaves the least, and how far from it that may be relied on. */
type Room = { readonly m: number; readonly by: number; readonly step: number }
function roomFrom(space: Space, p: Point3): Room {
  let [m, by, step] = [Infinity, NOTHING, Infinity]
  for (let k = 0; k < space.boxes.length; k++) {
    const { box, keepM, free } = space.boxes[k]!
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
function blockerAlong(space: Space, points: readonly Point3[], radiusM: number, spare = 0): number | undefined {
  const way = radiusM > 0 ? roundedWay(points, radiusM) : points
  // as far as there is room nothing can be met: the next look is taken there
  let skip = 0
  for (let i = 1; i < way.length; i++) {
    const [a, b] = [way[i - 1]!, way[i]!]
    const run = distance(a, b)
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
const nameOf = (space: Space, k: number): string => (k === BONNET ? 'the bonnet' : space.boxes[k]!.name)

/**
 * Name of what a hose meets on a way with its arcs, from its first point to its last; undefined when it is clear.
 *
 * @example
 * import { boxInWay } from '@/core/route/find'
 *
 * const wall = { name: 'wall', box: { middle: [0.5, 0, 0], half: [0.1, 0.1, 0.1] }, keepM: 0.01 } as const
 * console.log(
 *   boxInWay({ boxes: [wall], ceiling: () => undefined }, [[0, 0, 0], [1, 0, 0]], 0.1),
 * ) // 'wall'
 */
export function boxInWay(bay: RoutingBay, points: readonly Point3[], radiusM: number): string | undefined {
  const space = spaceOf(bay, { from: points[0]!, to: points.at(-1)! })
  const met = blockerAlong(space, points, radiusM)
  return met === undefined ? undefined : nameOf(space, met)
}

const fallsAll = (points: readonly Point3[]) => points.every((p, i) => i === 0 || p[2] < points[i - 1]![2])

type Grid = {
  readonly low: Point3
  readonly size: readonly [number, number, number]
  readonly at: (i: number) => Point3
  readonly index: (p: Point3) => number
}
function gridOver(bay: RoutingBay, wish: RouteRequest): Grid {
  const corners = bay.boxes.flatMap(({ box: { middle, half } }) =>
    [-1, 1].map((s): Point3 => [middle[0] + s * half[0], middle[1] + s * half[1], middle[2] + s * half[2]]),
  )
  const points = [wish.from, wish.to, ...corners.filter((p) => p.every(Number.isFinite))]
  const ends = [wish.from, wish.to]
  // boxes far from both ends do not make the grid larger
  const bound = (k: 0 | 1 | 2, pick: (...v: number[]) => number, s: 1 | -1) => {
    const wide = pick(...ends.map((p) => p[k])) + s * 0.6
    const all = pick(...points.map((p) => p[k])) + s * REACH
    return s < 0 ? Math.max(wide, all) : Math.min(wide, all)
  }
  const low: Point3 = [bound(0, Math.min, -1), bound(1, Math.min, -1), bound(2, Math.min, -1)]
  const high: Point3 = [bound(0, Math.max, 1), bound(1, Math.max, 1), bound(2, Math.max, 1)]
  const size = [0, 1, 2].map((k) => Math.max(2, Math.ceil((high[k]! - low[k]!) / STEP) + 1)) as [number, number, number]
  const at = (i: number): Point3 => [
    low[0] + (i % size[0]) * STEP,
    low[1] + (Math.floor(i / size[0]) % size[1]) * STEP,
    low[2] + Math.floor(i / (size[0] * size[1])) * STEP,
  ]
  const cell = (p: Point3, k: 0 | 1 | 2) => Math.max(0, Math.min(size[k] - 1, Math.round((p[k] - low[k]) / STEP)))
  return { low, size, at, index: (p) => cell(p, 0) + size[0] * (cell(p, 1) + size[1] * cell(p, 2)) }
}

/** A heap of nodes by cost. */
function heapOf() {
  const costs: number[] = []
  const nodes: number[] = []
  const swap = (a: number, b: number) => {
    ;[costs[a], costs[b]] = [costs[b]!, costs[a]!]
    ;[nodes[a], nodes[b]] = [nodes[b]!, nodes[a]!]
  }
  return {
    push(node: number, cost: number) {
      let i = nodes.length
      nodes.push(node)
      costs.push(cost)
      for (let up = (i - 1) >> 1; i > 0 && costs[up]! > costs[i]!; up = (i - 1) >> 1) {
        swap(i, up)
        i = up
      }
    },
    pop(): number | undefined {
      const top = nodes[0]
      const [node, cost] = [nodes.pop(), costs.pop()]
      if (top === undefined || nodes.length === 0) return top
      nodes[0] = node!
      costs[0] = cost!
      for (let i = 0; ;) {
        const left = 2 * i + 1
        let least = i
        if (left < nodes.length && costs[left]! < costs[least]!) least = left
        if (left + 1 < nodes.length && costs[left + 1]! < costs[least]!) least = left + 1
        if (least === i) return top
        swap(i, least)
        i = least
      }
    },
  }
}

const NEIGHBOURS = [-1, 0, 1].flatMap((x) =>
  [-1, 0, 1].flatMap((y) => [-1, 0, 1].flatMap((z) => (x || y || z ? [[x, y, z] as const] : []))),
)

/** Room round each cell, looked up once: how far the nearest thing is beyond what it asks, m, and its number; bonnet and ends counted. */
type RoomField = { readonly room: Float32Array; readonly by: Int16Array }
/** What a way is looked for in: the grid's cells and what is known of their room. */
type Ground = { readonly space: Space; readonly wish: RouteRequest; readonly grid: Grid; readonly field: RoomField }

function roomAt({ space, field }: Ground, i: number, p: Point3): number {
  const known = field.room[i]!
  if (!Number.isNaN(known)) return known
  const { m, by } = roomFrom(space, p)
  field.room[i] = m
  field.by[i] = by
  return m
}

/** Cells of the grid from end to end with `spare` metres beyond what is asked (A*); what stood most in the way where there is none. */
function* search(ground: Ground, spare: number): Job<Result<readonly Point3[]>> {
  const { space, wish, grid, field } = ground
  const { size } = grid
  const count = size[0] * size[1] * size[2]
  const [start, goal] = [grid.index(wish.from), grid.index(wish.to)]
  const cost = new Float64Array(count).fill(Infinity)
  const before = new Int32Array(count).fill(-1)
  const done = new Uint8Array(count)
  const blamed = new Map<number, number>()
  const free = (i: number, p: Point3): boolean => {
    if (i === goal || roomAt(ground, i, p) >= spare) return true
    const by = field.by[i]!
    blamed.set(by, (blamed.get(by) ?? 0) + 1)
    return false
  }
  cost[start] = 0
  const open = heapOf()
  const target = grid.at(goal)
  open.push(start, distance(grid.at(start), target))
  let seen = 0
  for (let i = open.pop(); i !== undefined; i = open.pop()) {
    if (done[i]) continue
    done[i] = 1
    if (++seen % 2000 === 0) yield Math.min(0.9, seen / count)
    if (i === goal) break
    const [cx, cy, cz] = [i % size[0], Math.floor(i / size[0]) % size[1], Math.floor(i / (size[0] * size[1]))]
    for (const [dx, dy, dz] of NEIGHBOURS) {
      if (wish.falls && dz > 0) continue
      const [x, y, z] = [cx + dx, cy + dy, cz + dz]
      if (x < 0 || y < 0 || z < 0 || x >= size[0] || y >= size[1] || z >= size[2]) continue
      const k = x + size[0] * (y + size[1] * z)
      if (done[k]) continue
      const p = grid.at(k)
      if (!free(k, p)) continue
      const next = cost[i]! + STEP * Math.hypot(dx, dy, dz)
      if (next >= cost[k]!) continue
      cost[k] = next
      before[k] = i
      open.push(k, next + distance(p, target))
    }
  }
  if (before[goal] === -1 && goal !== start) {
    const worst = [...blamed].toSorted((a, b) => b[1] - a[1]).map(([k]) => nameOf(space, k))
    return fail(
      worst.length > 0
        ? `There is no way with this clearance: ${worst.slice(0, 2).join(' and ')} ${worst.length > 1 ? 'stand' : 'stands'} in it.`
        : 'There is no way that falls from one end to the other.',
      worst[0],
    )
  }
  const cells: Point3[] = [wish.to]
  for (let i = before[goal]!; i !== -1 && i !== start; i = before[i]!) cells.push(grid.at(i))
  cells.push(wish.from)
  return ok(cells.toReversed())
}

/** Straight where it can be: each point leads to the furthest that it sees. */
function shortened(
  space: Space,
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
const holds = (space: Space, points: readonly Point3[], { radiusM, falls }: RouteRequest): boolean =>
  (!falls || fallsAll(points)) && pathOf(points, radiusM).ok && blockerAlong(space, points, radiusM) === undefined

/** Corners pushed outwards until their arcs are clear and their tangents fit. */
function bent(space: Space, points: readonly Point3[], wish: RouteRequest): readonly Point3[] | undefined {
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
      const away = distance(p, middle)
      const to = away > 1e-6 ? lerp(middle, p, 1 + PUSH / away) : p
      return falls ? ([to[0], to[1], p[2]] as Point3) : to
    })
  }
  return undefined
}

const costOf = (points: readonly Point3[]) =>
  points.reduce((sum, p, i) => sum + (i === 0 ? 0 : distance(points[i - 1]!, p)), 0) + TURN_COST * (points.length - 2)

/** How coarsely corners are tried where the shortest way cannot bend so, m; how many of the nearest, and of those how many in pairs. */
const [CORNER_STEP, CORNERS, PAIRED] = [0.06, 1500, 50]

/** Ways of one corner and of two over all corners of a coarse grid, the cheapest that holds: wide bends want few and long runs. */
function* fewCorners({ space, wish, grid }: Ground): Job<readonly Point3[] | undefined> {
  const { from, to } = wish
  const [nx, ny, nz] = grid.size.map((n) => Math.floor(((n - 1) * STEP) / CORNER_STEP) + 1) as [number, number, number]
  const all: Point3[] = []
  for (let i = 0; i < nx * ny * nz; i++)
    all.push([
      grid.low[0] + (i % nx) * CORNER_STEP,
      grid.low[1] + (Math.floor(i / nx) % ny) * CORNER_STEP,
      grid.low[2] + Math.floor(i / (nx * ny)) * CORNER_STEP,
    ])
  const straight = (a: Point3, b: Point3) => distance(a, b)
  const order = all.toSorted((a, b) => straight(from, a) + straight(a, to) - straight(from, b) - straight(b, to))
  // a first look: does the run from either end to the corner pass, its bend left out
  const fromHere: Point3[] = []
  const toThere: Point3[] = []
  for (const [i, c] of order.slice(0, CORNERS).entries()) {
    if (i % 400 === 0) yield i / CORNERS / 2
    const [first, last] = [
      blockerAlong(space, [from, lerp(from, c, 0.9)], 0) === undefined,
      blockerAlong(space, [lerp(c, to, 0.1), to], 0) === undefined,
    ]
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
  if (![...from, ...to, radiusM].every(Number.isFinite) || !(distance(from, to) > 0))
    return fail('Both ends have to be measured, and stand apart.')
  if (falls && !(to[2] < from[2])) return fail('A drain cannot fall: its end stands no lower than its beginning.')
  const space = spaceOf(bay, wish)
  const direct = blockerAlong(space, [from, to], radiusM)
  if (direct === undefined) return ok([])
  const grid = gridOver(bay, wish)
  const count = grid.size[0] * grid.size[1] * grid.size[2]
  if (count > MOST_NODES) return fail('These ends are too far apart to search between.')
  const ground: Ground = {
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
    if (best && costOf(best) < NEARLY_STRAIGHT * distance(from, to)) break
  }
  if (!best && passes) best = yield* scaled(fewCorners(ground), 0.5, 0.5)
  if (best) return ok(best.slice(1, -1))
  if (!passes && reason?.ok === false) return reason
  const met = nameOf(space, direct)
  return fail(
    `There is room for a hose to pass, but not for its bends of ${Math.round(radiusM * 1000)} mm: straight from end to end it meets ${met}.`,
    met,
  )
}
