/** Readings that ask for an odd engine: which single failure of a sound one would give them as well. */
import { solveLinear } from '@/core/network/linear'
import type { Build } from '../document/schema'
import { applyEdits } from '../edit/edit'
import { faultsOf } from '../faults/faults'
import type { Evaluator } from '../model/evaluator'
import { solveStates } from '../model/states'
import type { ReadingFit } from './reading-fit'
import { shownIn } from '../service/readings'

/** Readings that a sound car gives more often than this ask for no failure. */
const ODD = 0.05
/** Odds of nothing wrong over one failure of many (methods 12: 10 to 2). */
const NOTHING_WRONG = 5

/**
 * What the readings of a failure would be off by, squared, with the spread that the estimates leave them: by the slopes of the sound plan,
 * d^T (I + J J^T)^-1 d.
 */
function misfitOf(off: Float64Array, slopes: readonly Float64Array[]): number {
  const n = off.length
  const spread = new Float64Array(n * n)
  for (const [i, a] of slopes.entries())
    for (const [j, b] of slopes.entries())
      spread[i * n + j] = (i === j ? 1 : 0) + a.reduce((sum, v, k) => sum + v * b[k]!, 0)
  const solved = off.slice()
  // never singular: the unit matrix is part of it
  solveLinear(spread, solved, n)
  return off.reduce((sum, d, i) => sum + d * solved[i]!, 0)
}

/** Name of the failure that the readings are as well explained by as by an odd engine, if one is; undefined where a sound one gives them. */
export function faultBehind(build: Build, fit: ReadingFit, evaluator: Evaluator): string | undefined {
  if (fit.chance > ODD) return undefined
  let best: { name: string; misfit: number } | undefined
  for (const fault of faultsOf(build)) {
    const broken = applyEdits(build, fault.edits)
    if (!broken.ok) continue
    const { states } = solveStates(broken.value, evaluator)
    const off = Float64Array.from(fit.compared, (r) => {
      const state = states.find((s) => s.id === r.state)
      return state?.solved ? (shownIn(state, r) - r.value) / r.error : Number.NaN
    })
    if (off.some(Number.isNaN)) continue
    const misfit = misfitOf(off, fit.peak.slopes)
    if (!best || misfit < best.misfit) best = { name: fault.name, misfit }
  }
  return best && best.misfit + 2 * Math.log(NOTHING_WRONG) <= fit.peak.misfit ? best.name : undefined
}
