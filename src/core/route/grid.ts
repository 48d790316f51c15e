/** A search over a grid of free places (A*): cells from one end of a hose to the other. */
import type { Point3 } from '../drain/profile'
import type { Job } from '../job'
import { fail, ok, type Result } from '../result'
import { distanceBetween } from './distance'
import { blockerName, roomFrom, type RouteRequest, type RoutingBay, type HoseRoom } from './room'

/** Step of the grid, and how far beyond ends and obstacles it reaches, m. */
export const GRID_STEP = 0.03
const REACH = 0.18
/** Cells of a grid at most: beyond it ends are too far apart. */
export const MOST_NODES = 220_000

export type Grid = {
  readonly low: Point3
  readonly size: readonly [number, number, number]
  readonly at: (i: number) => Point3
  readonly index: (p: Point3) => number
}
/** A grid over both ends and what stands near them. */
export function gridOver(bay: RoutingBay, wish: RouteRequest): Grid {
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
  const size = [0, 1, 2].map((k) => Math.max(2, Math.ceil((high[k]! - low[k]!) / GRID_STEP) + 1)) as [
    number,
    number,
    number,
  ]
  const at = (i: number): Point3 => [
    low[0] + (i % size[0]) * GRID_STEP,
    low[1] + (Math.floor(i / size[0]) % size[1]) * GRID_STEP,
    low[2] + Math.floor(i / (size[0] * size[1])) * GRID_STEP,
  ]
  const cell = (p: Point3, k: 0 | 1 | 2) => Math.max(0, Math.min(size[k] - 1, Math.round((p[k] - low[k]) / GRID_STEP)))
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
export type RoomField = { readonly room: Float32Array; readonly by: Int16Array }
/** What a way is looked for in: the grid's cells and what is known of their room. */
export type GridSearch = {
  readonly space: HoseRoom
  readonly wish: RouteRequest
  readonly grid: Grid
  readonly field: RoomField
}

function roomAt({ space, field }: GridSearch, i: number, p: Point3): number {
  const known = field.room[i]!
  if (!Number.isNaN(known)) return known
  const { m, by } = roomFrom(space, p)
  field.room[i] = m
  field.by[i] = by
  return m
}

/** Cells of the grid from end to end with `spare` metres beyond what is asked (A*); what stood most in the way where there is none. */
export function* search(ground: GridSearch, spare: number): Job<Result<readonly Point3[]>> {
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
  open.push(start, distanceBetween(grid.at(start), target))
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
      const next = cost[i]! + GRID_STEP * Math.hypot(dx, dy, dz)
      if (next >= cost[k]!) continue
      cost[k] = next
      before[k] = i
      open.push(k, next + distanceBetween(p, target))
    }
  }
  if (before[goal] === -1 && goal !== start) {
    const worst = [...blamed].toSorted((a, b) => b[1] - a[1]).map(([k]) => blockerName(space, k))
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
