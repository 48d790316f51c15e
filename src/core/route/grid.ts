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
  const put = (i: number, node: number, cost: number) => {
    nodes[i] = node
    costs[i] = cost
  }
  return {
    push(node: number, cost: number) {
      let i = nodes.length
      for (let up = (i - 1) >> 1; i > 0 && costs[up]! > cost; up = (i - 1) >> 1) {
        put(i, nodes[up]!, costs[up]!)
        i = up
      }
      put(i, node, cost)
    },
    pop(): number | undefined {
      const top = nodes[0]
      const node = nodes.pop()
      const cost = costs.pop()
      if (node === undefined || cost === undefined || nodes.length === 0) return top
      for (let i = 0; ;) {
        let under = 2 * i + 1
        if (under + 1 < nodes.length && costs[under + 1]! < costs[under]!) under++
        if (under >= nodes.length || costs[under]! >= cost) {
          put(i, node, cost)
          return top
        }
        put(i, nodes[under]!, costs[under]!)
        i = under
      }
    },
  }
}

/** Steps to the cells round a cell, and how far each goes, m. */
const NEIGHBOURS = [-1, 0, 1].flatMap((dx) =>
  [-1, 0, 1].flatMap((dy) =>
    [-1, 0, 1].flatMap((dz) => (dx || dy || dz ? [{ dx, dy, dz, run: GRID_STEP * Math.hypot(dx, dy, dz) }] : [])),
  ),
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

function roomAt({ space, grid, field }: GridSearch, i: number): number {
  const known = field.room[i]!
  if (!Number.isNaN(known)) return known
  const { m, by } = roomFrom(space, grid.at(i))
  field.room[i] = m
  field.by[i] = by
  return m
}

/** The cells round a cell, each with the step to it, m; `not` leaves out those above or below. */
function forCellsRound(
  { size: [nx, ny, nz] }: Grid,
  i: number,
  not: 'above' | 'below' | undefined,
  visit: (k: number, run: number) => void,
): void {
  const cx = i % nx
  const cy = Math.floor(i / nx) % ny
  const cz = Math.floor(i / (nx * ny))
  for (const { dx, dy, dz, run } of NEIGHBOURS) {
    if ((not === 'above' && dz > 0) || (not === 'below' && dz < 0)) continue
    const x = cx + dx
    const y = cy + dy
    const z = cz + dz
    if (x < 0 || y < 0 || z < 0 || x >= nx || y >= ny || z >= nz) continue
    visit(x + nx * (y + ny * z), run)
  }
}

/** So many cells from the goal are looked at before a search, to see whether it is shut in. */
const POCKET = 400

/**
 * Whether the goal stands in a pocket of few free cells without the start: a search from the start would look at all others before it knows.
 */
function isShutIn({ wish, grid }: GridSearch, start: number, goal: number, free: (i: number) => boolean): boolean {
  const pocket = new Set([goal])
  for (const k of pocket) {
    if (k === start || pocket.size > POCKET) return false
    forCellsRound(grid, k, wish.falls ? 'below' : undefined, (i) => {
      if (!pocket.has(i) && (i === start || free(i))) pocket.add(i)
    })
  }
  return true
}

/** Cells of the grid from end to end with `spare` metres beyond what is asked (A*); what stood most in the way where there is none. */
export function* search(ground: GridSearch, spare: number): Job<Result<readonly Point3[]>> {
  const { space, wish, grid, field } = ground
  const { size } = grid
  const count = size[0] * size[1] * size[2]
  const [start, goal] = [grid.index(wish.from), grid.index(wish.to)]
  const blamed = new Map<number, number>()
  const free = (i: number): boolean => {
    if (i === goal || roomAt(ground, i) >= spare) return true
    const by = field.by[i]!
    blamed.set(by, (blamed.get(by) ?? 0) + 1)
    return false
  }
  const noWay = () => {
    const most = [...blamed].toSorted((a, b) => b[1] - a[1])
    // a hose is a row of bodies of one name
    const worst = [...new Set(most.map(([k]) => blockerName(space, k)))]
    return fail(
      worst.length > 0
        ? `There is no way with this clearance: ${worst.slice(0, 2).join(' and ')} ${worst.length > 1 ? 'stand' : 'stands'} in it.`
        : 'There is no way that falls from one end to the other.',
      worst[0],
    )
  }
  if (isShutIn(ground, start, goal, free)) return noWay()
  blamed.clear()
  const cost = new Float64Array(count).fill(Infinity)
  const before = new Int32Array(count).fill(-1)
  const done = new Uint8Array(count)
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
    const from = i
    forCellsRound(grid, from, wish.falls ? 'above' : undefined, (k, run) => {
      const next = cost[from]! + run
      if (done[k] || next >= cost[k]! || !free(k)) return
      cost[k] = next
      before[k] = from
      open.push(k, next + distanceBetween(grid.at(k), target))
    })
  }
  if (before[goal] === -1 && goal !== start) return noWay()
  const cells: Point3[] = [wish.to]
  for (let i = before[goal]!; i !== -1 && i !== start; i = before[i]!) cells.push(grid.at(i))
  cells.push(wish.from)
  return ok(cells.toReversed())
}
