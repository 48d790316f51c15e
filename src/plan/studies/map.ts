/** The circuit over the whole engine map: speed across, manifold pressure up. */
import type { Job } from '@/core/job'
import { operatingState } from '@/core/engine/states'
import { solveNetwork } from '@/core/network/solve'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { blowByIn, engineModel } from '../model/engine'
import { capacityAt } from '../model/capacity'
import { breatherNodes, crankcaseNode, netInflow, networkOf, topologyOf } from '../model/network'
import { LIMITS } from '../verdicts/limits'

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

/** 32 x 32 points, each solved for pressure and again for capacity. Yields the share done, row by row. */
export function* engineMap(build: Build, size = MAP_SIZE): Job<EngineMap> {
  const variant = activeVariant(build)
  const topology = topologyOf(variant)
  const engine = engineModel(build)
  const { facts, amb } = engine
  const node = crankcaseNode(variant, topology) ?? ''
  const breathers = breatherNodes(variant, topology)
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
  let before: Readonly<Record<string, number>> | undefined
  for (let row = 0; row < size; row++) {
    for (let col = 0; col < size; col++) {
      const at = row * size + col
      const load = (manifoldPa[row]! - lowest) / (manifoldPa[size - 1]! - lowest)
      const state = operatingState('cruise', facts, amb, {
        rpm: rpm[col]!,
        manifoldPa: manifoldPa[row]!,
        gasK: 353.15 + 20 * load,
      })
      const blowBy = blowByIn(engine, state)
      map.blowBy[at] = blowBy
      const network = networkOf(variant, topology, state, amb, blowBy)
      const solved = solveNetwork(network, col > 0 ? before : undefined)
      before = solved.ok ? solved.value.pressure : undefined
      if (!solved.ok) continue
      map.crankcaseGauge[at] = solved.value.pressure[node]! - amb.pressurePa
      map.breather[at] = netInflow(network, solved.value.flow, breathers)
      map.capacity[at] = capacityAt(network, node, amb.pressurePa + LIMITS.crankcaseHigh) ?? Number.NaN
    }
    yield (row + 1) / size
  }
  return map
}
