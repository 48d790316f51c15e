/**
 * What cars of one kind have taught, as what is to be expected of the next: a hierarchical normal model of the logarithms of their
 * multipliers (Gelman et al., Bayesian Data Analysis, 5.4). What the cars have in common and how far they differ are both learned; with no
 * car at all, what is expected is what is expected of any car.
 */
import { normalQuantile } from './normal'
import type { Multiplier } from './prior'

const { exp, log, sqrt } = Math

type Spread = Pick<Multiplier, 'mu' | 'sigma'>
/** What the log of one car alone says of the logarithm of its multiplier. */
export type LogEvidence = { readonly mean: number; readonly variance: number }

/** Share of what is unknown of a car that its kind has not in common (estimate), and the sigma of that share's logarithm (estimate). */
const BETWEEN = { share: 0.4, sigma: 0.4 } as const
/** Middles of so many equally likely parts of what cars may differ by. */
const PARTS = 40
/** A log that narrows a spread by less than this has said nothing. */
const LEAST_SAID = 1e-3

/**
 * What a car's log alone says, from what was known of it before and after: the normal that takes the one to the other. Undefined where
 * it said nothing.
 *
 * @example
 * import { evidenceOf } from '@/core/service/group'
 *
 * console.log(evidenceOf({ mu: 0, sigma: 0.8 }, { mu: 0.5, sigma: 0.4 }).mean) // 0.6666666666666667
 */
export function evidenceOf(before: Spread, after: Spread): LogEvidence | undefined {
  const [least, most] = [1 / before.sigma ** 2, 1 / after.sigma ** 2]
  if (!(most > least * (1 + LEAST_SAID))) return undefined
  const variance = 1 / (most - least)
  return { mean: variance * (after.mu * most - before.mu * least), variance }
}

/**
 * What is to be expected of the next car of a kind.
 * @param cars what the log of each says
 * @param sigma spread of the logarithm of a car of which nothing is known, above 0
 * @returns moments of the logarithm of its multiplier; and how far cars of the kind likely differ, as a spread of it
 *
 * @example
 * import { nextOfGroup } from '@/core/service/group'
 *
 * console.log(nextOfGroup([{ mean: 0.5, variance: 0.04 }, { mean: 0.7, variance: 0.04 }], 0.8).mu) // 0.46860983478359175
 */
export function nextOfGroup(cars: readonly LogEvidence[], sigma: number): Spread & { readonly between: number } {
  // the mean of the squares of what cars may differ by is its share of the whole
  const median = sigma * sqrt(BETWEEN.share / exp(2 * BETWEEN.sigma ** 2))
  const common = 1 / ((1 - BETWEEN.share) * sigma ** 2)
  const parts = Array.from({ length: PARTS }, (_, k) => {
    const between = median * exp(BETWEEN.sigma * normalQuantile((k + 0.5) / PARTS))
    // the kind's own mean, given how far its cars differ, is normal again
    let [precision, pull, fit] = [common, 0, 0]
    for (const { mean, variance } of cars) {
      const of = between ** 2 + variance
      precision += 1 / of
      pull += mean / of
      fit -= (log(of) + mean ** 2 / of) / 2
    }
    return {
      between,
      logWeight: fit - log(precision / common) / 2 + pull ** 2 / precision / 2,
      mean: pull / precision,
      variance: 1 / precision + between ** 2,
    }
  })
  const most = parts.reduce((m, p) => Math.max(m, p.logWeight), -Infinity)
  const weights = parts.map((p) => exp(p.logWeight - most))
  const all = weights.reduce((sum, w) => sum + w, 0)
  const mixed = (of: (p: (typeof parts)[number]) => number) =>
    parts.reduce((sum, p, k) => sum + (weights[k]! / all) * of(p), 0)
  const mu = mixed((p) => p.mean)
  return { mu, sigma: sqrt(mixed((p) => p.variance + (p.mean - mu) ** 2)), between: mixed((p) => p.between) }
}
