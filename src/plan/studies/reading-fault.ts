/** Readings that fit no sound engine like this one: which single failure would give them. */
import type { StateId } from '@/core/engine/states'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits } from '../edit/edit'
import { faultsOf } from '../faults/faults'
import { engineModel } from '../model/engine'
import { solveGas } from '../model/states'
import { gaugeError, type Reading } from './readings'

/** How far off a failure may leave the readings and still count as their explanation: mean square of standard deviations. */
const EXPLAINS = 2

/**
 * Name of the failure whose crankcase comes nearest to the readings, if it comes near at all and nearer by far than the sound plan.
 * @param spreadOf what the estimates leave open in a state, Pa one standard deviation
 */
export function faultBehind(
  build: Build,
  readings: readonly Reading[],
  spreadOf: (state: StateId) => number,
): string | undefined {
  const off = (b: Build): number => {
    const engine = engineModel(b)
    const squares = readings.map((r) => {
      const state = engine.states.find((s) => s.id === r.state)
      const gas = state && solveGas(activeVariant(b), engine, state)
      const sigma = Math.hypot(gaugeError(r.gaugePa), spreadOf(r.state))
      return gas ? ((gas.crankcaseGauge - r.gaugePa) / sigma) ** 2 : Infinity
    })
    return squares.reduce((s, v) => s + v, 0) / readings.length
  }
  let best: { name: string; off: number } | undefined
  for (const fault of faultsOf(build)) {
    const broken = applyEdits(build, fault.edits)
    if (!broken.ok) continue
    const now = off(broken.value)
    if (!best || now < best.off) best = { name: fault.name, off: now }
  }
  return best && best.off < EXPLAINS && best.off < off(build) / 3 ? best.name : undefined
}
