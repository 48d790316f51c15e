/** Whether a car has begun to make more than it used to: the odds of a step up against none. */
import { ENTRY_SIGMA, PRIOR_SIGMA, WET_WALL_M3 } from './learn'

/** One emptying: oil found and oil predicted with multiplier 1, m3. */
export type Found = { readonly found: number; readonly predicted: number }

/** A step that is worth a look: its size, ln, and how much that may differ (estimates). */
const STEP = Math.log(1.6)
const STEP_SIGMA = 0.25
/** Entries after a step before it is spoken of: two wet intervals are weather; and the most, since an older one has been learned. */
const LEAST_AFTER = 3
const MOST_AFTER = 6
/** Odds against a step before anything is looked at (estimate, such that one look in fifty cries wolf). */
const PRIOR_ODDS_AGAINST = 6.5

/** Log marginal likelihood of values x_i ~ N(m, s_i^2) whose mean has the prior N(mu, sigma^2). */
function logEvidence(x: readonly number[], s: readonly number[], mu: number, sigma: number): number {
  let [precision, weighted, square, logs] = [sigma ** -2, mu * sigma ** -2, mu * mu * sigma ** -2, 0]
  x.forEach((v, i) => {
    const p = s[i]! ** -2
    precision += p
    weighted += v * p
    square += v * v * p
    logs += Math.log(s[i]!)
  })
  return -0.5 * (square - (weighted * weighted) / precision) - logs - Math.log(sigma) - 0.5 * Math.log(precision)
}

export type RateStep = {
  /** odds that the rate has stepped up, against that it is as it was */
  readonly odds: number
  /** first of the entries after it, by index among those given */
  readonly from: number
}

/**
 * The likeliest step up in what was found over what was predicted, oldest entry first, with its odds (Bayes factor by the marginal
 * likelihoods of normal means, Gelman et al., 2.5, times the prior odds). Undefined with fewer than two entries
 * before it and three after.
 *
 * @example
 * import { stepUp } from '@/core/service/trend'
 *
 * console.log(
 *   stepUp([10, 10, 10, 10, 10, 10, 20, 20, 20, 20].map((found) => ({ found: found * 1e-6, predicted: 1e-5 }))).odds >
 *     1,
 * ) // true
 */
export function stepUp(entries: readonly Found[]): RateStep | undefined {
  const known = entries.map((e, i) => ({ ...e, i })).filter((e) => e.found > 0 && e.predicted > 0)
  const x = known.map((e) => Math.log(e.found / e.predicted))
  const s = known.map((e) => Math.hypot(ENTRY_SIGMA, WET_WALL_M3 / e.found))
  const none = logEvidence(x, s, 0, PRIOR_SIGMA)
  let best: RateStep | undefined
  for (let k = Math.max(2, x.length - MOST_AFTER); k + LEAST_AFTER <= x.length; k++) {
    // before the step a mean of its own; after it that mean and the step: two means that know of each other
    const before = { x: x.slice(0, k), s: s.slice(0, k) }
    const after = { x: x.slice(k), s: s.slice(k) }
    const precision = before.s.reduce((sum, v) => sum + v ** -2, PRIOR_SIGMA ** -2)
    const mean = before.x.reduce((sum, v, i) => sum + v * before.s[i]! ** -2, 0) / precision
    const stepped =
      logEvidence(before.x, before.s, 0, PRIOR_SIGMA) +
      logEvidence(after.x, after.s, mean + STEP, Math.hypot(precision ** -0.5, STEP_SIGMA))
    const odds = Math.exp(stepped - none) / PRIOR_ODDS_AGAINST
    if (!best || odds > best.odds) best = { odds, from: known[k]!.i }
  }
  return best
}

/** Odds from which a step is spoken of. */
export const STEP_ODDS = 1
