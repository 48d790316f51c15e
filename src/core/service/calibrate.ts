/** What the emptyings say of the model: a multiplier on the oil rate, learned by Bayes' rule. */

export const PRIOR_SIGMA = 0.8
export const ENTRY_SIGMA = 0.25

/** One emptying: oil found and oil predicted with multiplier 1, in the same unit. */
export type Found = { readonly found: number; readonly predicted: number }

/** Multiplier as a lognormal: median exp(mu), spread sigma of its logarithm. */
export type Multiplier = { readonly mu: number; readonly sigma: number; readonly entries: number }

/**
 * Conjugate normal update in the logarithm: prior N(0, 0.8^2), each entry ln(found/predicted) with sigma 0.25
 * (Gelman et al., Bayesian Data Analysis, 2.5). Entries with nothing found or predicted teach nothing and are passed over.
 * `prior` stands in for the blank one where something was learned elsewhere.
 * @example calibrate([{ found: 20, predicted: 10 }]) // { mu: 0.6315, sigma: 0.2386, entries: 1 }
 */
export function calibrate(
  entries: readonly Found[],
  prior: Pick<Multiplier, 'mu' | 'sigma'> = { mu: 0, sigma: PRIOR_SIGMA },
): Multiplier {
  let precision = prior.sigma ** -2
  let weighted = prior.mu * precision
  let used = 0
  for (const e of entries) {
    if (!(e.found > 0) || !(e.predicted > 0)) continue
    precision += ENTRY_SIGMA ** -2
    weighted += Math.log(e.found / e.predicted) / ENTRY_SIGMA ** 2
    used++
  }
  return { mu: weighted / precision, sigma: precision ** -0.5, entries: used }
}

/**
 * Inverse of the standard normal distribution for 0 < q < 1 (Acklam's rational approximation, relative error 1.2e-9).
 * @example normalQuantile(0.9) // 1.2816
 */
export function normalQuantile(q: number): number {
  const a = [
    -39.69683028665376, 220.9460984245205, -275.9285104469687, 138.357751867269, -30.66479806614716, 2.506628277459239,
  ]
  const b = [-54.47609879822406, 161.5858368580409, -155.6989798598866, 66.80131188771972, -13.28068155288572]
  const c = [
    -0.007784894002430293, -0.3223964580411365, -2.400758277161838, -2.549732539343734, 4.374664141464968,
    2.938163982698783,
  ]
  const d = [0.007784695709041462, 0.3224671290700398, 2.445134137142996, 3.754408661907416]
  const poly = (k: readonly number[], x: number) => k.reduce((s, v) => s * x + v, 0)
  if (q > 0.97575) return -normalQuantile(1 - q)
  if (q < 0.02425) {
    const r = Math.sqrt(-2 * Math.log(q))
    return poly(c, r) / (poly(d, r) * r + 1)
  }
  const r = q - 0.5
  return (poly(a, r * r) * r) / (poly(b, r * r) * r * r + 1)
}

/**
 * Multiplier at quantile `q`.
 * @example multiplierAt({ mu: 0, sigma: 0.5 }, 0.5) // 1
 */
export const multiplierAt = (m: Multiplier, q: number): number => Math.exp(m.mu + m.sigma * normalQuantile(q))

/**
 * Whether the last three emptyings each lie above the band (90 %) that the earlier ones had led to expect: rings, PCV valve or oil level.
 * Needs five entries.
 * @example risingTrend([10, 10, 25, 25, 25].map((found) => ({ found, predicted: 10 }))) // true
 */
export function risingTrend(entries: readonly Found[]): boolean {
  const usable = entries.filter((e) => e.found > 0 && e.predicted > 0)
  if (usable.length < 5) return false
  const before = calibrate(usable.slice(0, -3))
  const limit = before.mu + 1.2816 * Math.hypot(before.sigma, ENTRY_SIGMA)
  return usable.slice(-3).every((e) => Math.log(e.found / e.predicted) > limit)
}
