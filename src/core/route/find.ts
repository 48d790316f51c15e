/** A way for a hose through a bay: a search over a grid of free places, then shortened and rounded. */
import type { Point3 } from '../drain/profile'
import type { Job } from '../job'
import { fail, ok, type Result } from '../result'
import { distanceToBox, END_FREE, walkAlong, type Box } from './distance'
import { pathOf, roundedWay } from './path'

export type RoutingBay = {
  /** what to keep from, and how far the middle of the hose stays from it, m */
  readonly boxes: readonly { readonly name: string; readonly box: Box; readonly keepM: number }[]
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
/** Cost of a turn of the way, as metres of hose: ends and bends are what is made. */
const TURN_COST = 0.02
/** Room beyond what is asked that is tried for, m, most first; a way hardly longer than straight needs no further look. */
const SPARES = [0.05, 0.025, 0]
const NEARLY_STRAIGHT = 1.15
/** How often a corner is pushed out, and by how much, until its arc is clear, m. */
const [PUSHES, PUSH] = [10, 0.02]

/** What the tube meets along a way with its arcs; undefined when it is clear. */
export function boxInWay(bay: RoutingBay, points: readonly Point3[], radiusM: number): string | undefined {
  const [first, last] = [points[0]!, points.at(-1)!]
  const near = (p: Point3, q: Point3) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]) < END_FREE
  let met: string | undefined
  walkAlong(roundedWay(points, radiusM), (p) => {
    if (met !== undefined || near(p, first) || near(p, last)) return
    met = bay.boxes.find(({ box, keepM }) => distanceToBox(p, box) < keepM)?.name
    const lid = bay.ceiling(p[0], p[1])
    if (met === undefined && lid !== undefined && p[2] > lid) met = 'the bonnet'
  })
  return met
}

const lerp = (a: Point3, b: Point3, t: number): Point3 => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
]
const distance = (a: Point3, b: Point3) => Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2])
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
const BONNET = -2
/** What a way is looked for in: the grid's cells and what is known of their room. */
type Ground = { readonly bay: RoutingBay; readonly wish: RouteRequest; readonly grid: Grid; readonly field: RoomField }

function roomAt({ bay, wish, field }: Ground, i: number, p: Point3): number {
  const known = field.room[i]!
  if (!Number.isNaN(known)) return known
  let [room, by] = [Infinity, -1]
  if (distance(p, wish.from) >= END_FREE && distance(p, wish.to) >= END_FREE) {
    bay.boxes.forEach(({ box, keepM }, k) => {
      const d = distanceToBox(p, box) - keepM
      if (d < room) [room, by] = [d, k]
    })
    const lid = bay.ceiling(p[0], p[1])
    if (lid !== undefined && p[2] > lid) [room, by] = [-1, BONNET]
  }
  field.room[i] = room
  field.by[i] = by
  return room
}

/** Cells of the grid from end to end with `spare` metres beyond what is asked (A*); what stood most in the way where there is none. */
function* search(ground: Ground, spare: number): Job<Result<readonly Point3[]>> {
  const { bay, wish, grid, field } = ground
  const { size } = grid
  const count = size[0] * size[1] * size[2]
  const [start, goal] = [grid.index(wish.from), grid.index(wish.to)]
  const cost = new Float64Array(count).fill(Infinity)
  const before = new Int32Array(count).fill(-1)
  const done = new Uint8Array(count)
  const blamed = new Map<number, number>()
  const free = (i: number, p: Point3): boolean => {
    if (roomAt(ground, i, p) >= spare) return true
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
    const worst = [...blamed]
      .toSorted((a, b) => b[1] - a[1])
      .map(([k]) => (k === BONNET ? 'the bonnet' : bay.boxes[k]!.name))
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
function shortened(bay: RoutingBay, points: readonly Point3[], falls: boolean): Point3[] {
  const sees = (a: Point3, b: Point3) => (!falls || b[2] < a[2]) && boxInWay(bay, [a, b], 0) === undefined
  const out = [points[0]!]
  for (let i = 0; i < points.length - 1;) {
    let k = points.length - 1
    while (k > i + 1 && !sees(points[i]!, points[k]!)) k--
    out.push(points[k]!)
    i = k
  }
  return out
}

/** Corners pushed outwards until their arcs are clear and their tangents fit. */
function bent(
  bay: RoutingBay,
  points: readonly Point3[],
  { radiusM, falls }: RouteRequest,
): readonly Point3[] | undefined {
  let now = points
  for (let round = 0; round <= PUSHES; round++) {
    const path = pathOf(now, radiusM)
    if (path.ok && boxInWay(bay, now, radiusM) === undefined && (!falls || fallsAll(now))) return now
    // a corner whose run is too short goes, if the way without it is clear
    const fewer = now.flatMap((_, i) => {
      if (i === 0 || i === now.length - 1) return []
      const without = now.filter((_p, k) => k !== i)
      return boxInWay(bay, without, radiusM) === undefined && (!falls || fallsAll(without)) ? [without] : []
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
  if (boxInWay(bay, [from, to], radiusM) === undefined) return ok([])
  let best: readonly Point3[] | undefined
  let reason: Result<readonly Point3[]> | undefined
  // with room to spare first, where it is to be had
  const grid = gridOver(bay, wish)
  const count = grid.size[0] * grid.size[1] * grid.size[2]
  if (count > MOST_NODES) return fail('These ends are too far apart to search between.')
  const field: RoomField = { room: new Float32Array(count).fill(NaN), by: new Int16Array(count) }
  for (const spare of SPARES) {
    const roomy: RoutingBay = { ...bay, boxes: bay.boxes.map((b) => ({ ...b, keepM: b.keepM + spare })) }
    const found = yield* search({ bay, wish, grid, field }, spare)
    if (!found.ok) {
      reason = found
      continue
    }
    const way = bent(bay, shortened(roomy, found.value, falls), wish)
    if (way && (!best || costOf(way) < costOf(best))) best = way
    if (best && costOf(best) < NEARLY_STRAIGHT * distance(from, to)) break
    reason ??= fail('There is room for a way, but not for the bends of this hose in it.')
  }
  if (best) return ok(best.slice(1, -1))
  return reason?.ok === false ? reason : fail('There is room for a way, but not for the bends of this hose in it.')
}
