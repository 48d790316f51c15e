/** Readings that fit no sound engine like this one: which single failure would give them. */
import type { Build } from '../document/schema'
import { applyEdits } from '../edit/edit'
import { faultsOf } from '../faults/faults'
import { makeEvaluator } from '../model/evaluator'
import { solveStates } from '../model/states'
import { shownIn, type Reading } from './readings'

/** How far off a failure may leave the readings and still count as their explanation: mean square of standard deviations. */
const EXPLAINS = 2

/**
 * Name of the failure that comes nearest to the readings, if it comes near at all and nearer by far than the sound plan.
 * @param spreadOf what the estimates leave open of a reading, one standard deviation
 */
export function faultBehind(
  build: Build,
  readings: readonly Reading[],
  spreadOf: (r: Reading) => number,
): string | undefined {
  const evaluator = makeEvaluator()
  const off = (b: Build): number => {
    const { states } = solveStates(b, evaluator)
    const squares = readings.map((r) => {
      const state = states.find((s) => s.id === r.state)
      if (!state?.solved) return Infinity
      const away = (shownIn(state, r) - r.value) / Math.hypot(r.error, spreadOf(r))
      return Number.isNaN(away) ? Infinity : away ** 2
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
