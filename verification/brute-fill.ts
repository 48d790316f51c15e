/**
 * The posterior of methods 7 written out again, the slow way: every combination of multipliers, scatter, change and jump on even grids, none
 * of the shortcuts of the core. What is compared with it shares no code but the constants.
 */
import { CHANGE, DUTIES_ALIKE, PRIOR_SIGMA, SCATTER, TRACK_SIGMA } from '../src/core/service/prior'
import type { Emptying, Pair } from '../src/core/service/prior'

const { exp, log, sqrt, abs } = Math
const spread = (from: number, to: number, count: number): number[] =>
  Array.from({ length: count }, (_, k) => from + ((to - from) * k) / (count - 1))

/** Student's t of 4 degrees, by its textbook form. */
const density = (t: number): number => 0.375 * (1 + (t * t) / 4) ** -2.5
const below = (t: number): number => {
  const x = t / sqrt(1 + (t * t) / 4)
  return 0.5 + 0.375 * x * (1 - (x * x) / 12)
}

export type Brute = {
  readonly low: number
  readonly mid: number
  readonly high: number
  readonly changed: number
  readonly scatter: number
}

/**
 * 10, 50 and 90 % points of the next filling at `rates`.
 * @param sigma spread of the oil's multiplier
 * @param points across each multiplier
 */
export function bruteFill(entries: readonly Emptying[], rates: Pair, sigma = PRIOR_SIGMA, points = 81): Brute {
  const byTrack = entries.some((e) => (e.predicted.track ?? 0) > 0)
  const oils = spread(-4 * sigma, 4 * sigma, points)
  const waters = [...entries.map((e) => e.predicted), rates].some((p) => p.water > 0)
    ? spread(-4 * PRIOR_SIGMA, 4 * PRIOR_SIGMA, points)
    : [0]
  const tracks = byTrack ? spread(-4 * TRACK_SIGMA, 4 * TRACK_SIGMA, points) : [undefined]
  const scatters = spread(
    log(SCATTER.median) - 2.75 * SCATTER.sigma,
    log(SCATTER.median) + 2.75 * SCATTER.sigma,
    12,
  ).map(exp)
  const jumps = spread(-3.5 * CHANGE.sigma, 3.5 * CHANGE.sigma, 21)
  const n = entries.length
  const none = (1 - CHANGE.probability) ** Math.max(0, n - 1)
  const once = n < 2 ? 0 : CHANGE.probability * (1 - CHANGE.probability) ** (n - 2)
  const jumpWeight = jumps.map((j) => exp(-0.5 * (j / CHANGE.sigma) ** 2))
  const jumpSum = jumpWeight.reduce((a, b) => a + b, 0)
  const det = 1 - DUTIES_ALIKE ** 2
  // mass of the next filling by scatter and by its logarithm
  const [from, step, bins] = [-12, 0.01, 2400]
  const mass = scatters.map(() => new Float64Array(bins))
  const middle = log(Math.max(1e-300, rates.oil + rates.water))
  let [all, changed, scatterSum] = [0, 0, 0]
  for (const o of oils)
    for (const w of waters)
      for (const t of tracks) {
        const [a, b] = [o / PRIOR_SIGMA, (t ?? 0) / TRACK_SIGMA]
        const prior =
          exp(-0.5 * (w / PRIOR_SIGMA) ** 2) *
          exp(t === undefined ? -0.5 * (o / sigma) ** 2 : -(a * a - 2 * DUTIES_ALIKE * a * b + b * b) / (2 * det))
        if (prior < 1e-4) continue
        const hard = t ?? o
        const made = (p: Pair, of: 'oil' | 'water' | 'all'): number => {
          const oil = (p.oil - (p.track ?? 0)) * exp(o) + (p.track ?? 0) * exp(hard)
          return log(of === 'oil' ? oil : of === 'water' ? p.water * exp(w) : oil + p.water * exp(w))
        }
        const facts = entries.map((e) =>
          (['oil', 'water', 'all'] as const).flatMap((of) => {
            const amount = e[of]
            if (!amount || (of === 'water' ? e.predicted.water : e.predicted.oil + e.predicted.water) <= 0) return []
            const kind = 'found' in amount ? 0 : 'atLeast' in amount ? -1 : 1
            const volume = 'found' in amount ? amount.found : 'atLeast' in amount ? amount.atLeast : amount.atMost
            return [{ kind, off: log(volume) - made(e.predicted, of) }]
          }),
        )
        const y = made(rates, 'all') - middle
        scatters.forEach((s, si) => {
          const likely = (e: number, j: number): number =>
            facts[e]!.reduce((product, { kind, off }) => {
              const z = (off - j) / s
              return product * (kind === 0 ? density(z) / s : below(kind * z))
            }, 1)
          const weight = prior * exp(-0.5 * (log(s / SCATTER.median) / SCATTER.sigma) ** 2)
          const still = facts.map((_, e) => likely(e, 0))
          const add = (x: number, m: number) => {
            all += m
            scatterSum += m * log(s)
            const bin = Math.round((x - from) / step)
            if (bin >= 0 && bin < bins) mass[si]![bin]! += m
          }
          add(y, weight * none * still.reduce((p, v) => p * v, 1))
          if (once === 0) return
          jumps.forEach((j, ji) => {
            const moved = facts.map((_, e) => likely(e, j))
            for (let k = 1; k < n; k++) {
              let m = (weight * once * jumpWeight[ji]!) / jumpSum
              for (let e = 0; e < n; e++) m *= e < k ? still[e]! : moved[e]!
              changed += m
              add(y + j, m)
            }
          })
        })
      }
  const share = (x: number): number => {
    let sum = 0
    scatters.forEach((s, si) =>
      mass[si]!.forEach((m, k) => {
        if (m > 0) sum += m * below((x - from - k * step) / s)
      }),
    )
    return sum / all
  }
  const quantile = (q: number): number => {
    let [low, high] = [-10, 10]
    while (abs(high - low) > 1e-4) {
      const x = (low + high) / 2
      if (share(x) < q) low = x
      else high = x
    }
    return exp(middle + low)
  }
  return {
    low: quantile(0.1),
    mid: quantile(0.5),
    high: quantile(0.9),
    changed: changed / all,
    scatter: exp(scatterSum / all),
  }
}
