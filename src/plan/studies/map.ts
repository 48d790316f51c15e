/** The circuit over the whole engine map: speed across, manifold pressure up. */
import { finish, scaled, type Job } from '@/core/job'
import { operatingStates } from '@/core/engine/states'
import { STUDY_TOLERANCE } from '@/core/network/newton'
import { solverFor, type Solver } from '@/core/network/solver'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits } from '../edit/edit'
import { pulsates } from '../model/engine'
import { makeEvaluator, type Evaluator } from '../model/evaluator'
import { pulse } from '../model/pulsation'
import { breatherNodes } from '../model/network'
import { crankcaseNode } from '../model/resolve'
import { LIMITS } from '../model/limits'

export const MAP_SIZE = 32

export type EngineMap = {
  readonly size: number
  /** rpm of each column, Pa absolute of each row, lowest first */
  readonly rpm: readonly number[]
  readonly manifoldPa: readonly number[]
  readonly ambientPa: number
  /** by row, then column; NaN where there is no answer */
  readonly crankcaseGauge: Float64Array
  /** kg/s out of the engine by the breather side; negative is fresh air coming in */
  readonly breather: Float64Array
  readonly blowBy: Float64Array
  /** kg/s that would leave with the crankcase at the highest pressure that seals bear for long */
  readonly capacity: Float64Array
}

/**
 * 32 x 32 points, each solved for pressure and again for capacity. One solver goes over all of them: from point to point only gas, borders
 * and blow-by change, and the neighbour's answer is where it starts. Where the pistons pump, the crankcase is the mean of the turn. Yields
 * the share done, row by row.
 * @param withCapacity without it, only pressures are solved for, in half the time
 *
 * @example
 * import { finish } from '@/core/job'
 * import { newBuild } from '@/plan/schools/new-build'
 * import { engineMap } from '@/plan/studies/map'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(finish(engineMap(build, 4, false)).crankcaseGauge[0]) // -40.08180869247008
 */
export function* engineMap(build: Build, size = MAP_SIZE, withCapacity = true): Job<EngineMap> {
  const evaluator = makeEvaluator()
  const r = evaluator.resolve(activeVariant(build))
  const engine = evaluator.engineModel(build)
  const { facts, amb } = engine
  const node = crankcaseNode(r) ?? ''
  const along = (low: number, high: number) =>
    Array.from({ length: size }, (_, i) => low + ((high - low) * i) / (size - 1))
  const rpm = along(facts.idleRpm, facts.ratedRpm)
  const lowest = Math.min(facts.overrunManifoldPa, facts.idleManifoldPa)
  const manifoldPa = along(lowest, amb.pressurePa + facts.boostPa)
  const grid = () => new Float64Array(size * size).fill(Number.NaN)
  const map = {
    size,
    rpm,
    manifoldPa,
    ambientPa: amb.pressurePa,
    crankcaseGauge: grid(),
    breather: grid(),
    blowBy: grid(),
    capacity: grid(),
  }
  const stateOf = operatingStates(facts, amb)
  const borders = breatherNodes(r)
  const turns = pulsates(build.engine)
  let solver: Solver | undefined
  for (let row = 0; row < size; row++) {
    // each row starts afresh; along it the neighbours' answers lead on, for either way of solving
    const [free, held] = [trail(), trail()]
    for (let col = 0; col < size; col++) {
      const at = row * size + col
      const load = (manifoldPa[row]! - lowest) / (manifoldPa[size - 1]! - lowest)
      const state = stateOf('cruise', {
        rpm: rpm[col]!,
        manifoldPa: manifoldPa[row]!,
        gasK: 353.15 + 20 * load,
      })
      const blowBy = evaluator.blowByIn(engine, state)
      map.blowBy[at] = blowBy
      const network = evaluator.networkOf(r, state, amb, blowBy)
      const made = solverFor(network, solver, { pin: node, aim: STUDY_TOLERANCE, cache: evaluator.solverCache })
      if (!made.ok) continue
      const now = (solver = made.value)
      const balance = now.solve(free.next())
      free.add(balance.ok ? balance.value.p : undefined)
      if (!balance.ok) continue
      map.crankcaseGauge[at] = balance.value.p[now.index.get(node)!]! - amb.pressurePa
      map.breather[at] = network.elements.reduce(
        (sum, e, k) => (borders.has(e.to) ? sum + now.flow(k) : borders.has(e.from) ? sum - now.flow(k) : sum),
        0,
      )
      if (!withCapacity) continue
      const leaving = now.leavingAt(amb.pressurePa + LIMITS.crankcaseHigh, held.next() ?? 'last')
      held.add(leaving.ok ? balance.value.p : undefined)
      if (leaving.ok) map.capacity[at] = Math.max(0, leaving.value)
    }
    yield ((row + 1) / size) * (turns ? STILL_SHARE : 1)
  }
  if (turns) yield* scaled(overTheTurn(build, map, evaluator), STILL_SHARE, 1 - STILL_SHARE)
  return map
}

/** Points along each axis at which the turn is followed where the pistons pump: each takes a tenth of a second or two. */
const [COLUMNS, ROWS] = [6, 5]
/** Share of the work that the still grid is, where turns are followed. */
const STILL_SHARE = 0.05

/** What the turn makes of the crankcase on the mean, on a coarse grid, added to the still grid straight between its points. */
function* overTheTurn(build: Build, map: EngineMap, evaluator: Evaluator): Job<void> {
  const { size } = map
  const places = (count: number) => Array.from({ length: count }, (_, i) => Math.round((i * (size - 1)) / (count - 1)))
  const [columns, rows] = [places(COLUMNS), places(ROWS)]
  const adds: number[][] = []
  for (const [j, row] of rows.entries()) {
    const along: number[] = []
    for (const [i, col] of columns.entries()) {
      const point = { rpm: map.rpm[col]!, manifoldKpa: map.manifoldPa[row]! / 1000 }
      const there = applyEdits(build, [
        { op: 'set', path: ['engine', 'overrides', 'cruise'], value: { ...build.engine.overrides.cruise, ...point } },
      ])
      const p = there.ok ? finish(pulse(there.value, 'cruise', evaluator)) : undefined
      along.push(p?.ok ? p.value.mean - p.value.ambientPa - map.crankcaseGauge[row * size + col]! : Number.NaN)
      yield (j * COLUMNS + i + 1) / (COLUMNS * ROWS)
    }
    adds.push(along)
  }
  for (let row = 0; row < size; row++)
    for (let col = 0; col < size; col++)
      map.crankcaseGauge[row * size + col]! += between(adds, placeAmong(rows, row), placeAmong(columns, col))
}

/** Where a place lies among others: the one before it, and how far it is to the next. */
function placeAmong(places: readonly number[], at: number): readonly [index: number, share: number] {
  const after = Math.max(
    1,
    places.findIndex((p) => p >= at),
  )
  const [a, b] = [places[after - 1]!, places[after]!]
  return [after - 1, (at - a) / (b - a)]
}
const between = (
  grid: readonly (readonly number[])[],
  [j, y]: readonly [number, number],
  [i, x]: readonly [number, number],
): number => {
  const row = (k: number) => grid[k]![i]! * (1 - x) + grid[k]![i + 1]! * x
  return row(j) * (1 - y) + row(j + 1) * y
}

/** Answers along a row: the next one is looked for where the last three point, on a parabola. */
function trail() {
  // newest first; room for the next takes the place of the oldest
  const kept: Float64Array[] = []
  let known = 0
  let start = new Float64Array(0)
  return {
    next(): Float64Array | undefined {
      const [last, before, first] = kept
      if (known === 0 || !last) return undefined
      if (start.length !== last.length) start = new Float64Array(last.length)
      for (let k = 0; k < start.length; k++) {
        const p = last[k]!
        const on = known === 1 ? p : known === 2 ? 2 * p - before![k]! : 3 * (p - before![k]!) + first![k]!
        start[k] = Math.max(p / 2, on)
      }
      return start
    },
    add(p: Float64Array | undefined) {
      if (!p) {
        known = 0
        return
      }
      const room = kept.length < 3 ? new Float64Array(p.length) : kept.pop()!
      room.set(p)
      kept.unshift(room)
      known = Math.min(3, known + 1)
    },
  }
}
