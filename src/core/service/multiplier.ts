/** Ranges of a multiplier itself, without the scatter of any interval. */
import { rangeOf, type Range } from '../range'
import type { Learned } from './learn'
import { normalQuantile } from './normal'
import type { Multiplier } from './prior'

/**
 * Multiplier at quantile `q`, as a lognormal of these moments.
 *
 * @example
 * import { multiplierAt } from '@/core/service/multiplier'
 *
 * console.log(multiplierAt({ mu: 0, sigma: 0.5 }, 0.5)) // 1
 */
export const multiplierAt = (m: Pick<Multiplier, 'mu' | 'sigma'>, q: number): number =>
  Math.exp(m.mu + m.sigma * normalQuantile(q))

/**
 * 10, 50 and 90 % points of a multiplier itself, without the scatter of any interval.
 *
 * @example
 * import { learn } from '@/core/service/learn'
 * import { multiplierRange } from '@/core/service/multiplier'
 *
 * console.log(multiplierRange(learn([]), 'oil').high) // 2.7875187757989592
 */
export function multiplierRange(learned: Learned, of: 'oil' | 'water'): Range {
  // nothing has bent it: it is the lognormal that it was
  if (learned[of].entries === 0) return rangeOf((q) => multiplierAt(learned[of], q))
  const x = learned.points[of]
  const { weight, scatter } = learned.points
  const each = scatter.length
  const shares = x.map((_, k) => weight.subarray(k * each, (k + 1) * each).reduce((sum, w) => sum + w, 0))
  const order = [...x.keys()].toSorted((i, j) => x[i]! - x[j]!)
  return rangeOf((q) => {
    // linear between the middles of the points' weights
    let before = 0
    let [lastAt, lastX] = [0, x[order[0]!]!]
    for (const k of order) {
      const at = before + shares[k]! / 2
      if (at >= q) return Math.exp(lastX + ((x[k]! - lastX) * (q - lastAt)) / Math.max(1e-15, at - lastAt))
      before += shares[k]!
      ;[lastAt, lastX] = [at, x[k]!]
    }
    return Math.exp(lastX)
  })
}
