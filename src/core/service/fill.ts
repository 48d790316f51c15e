/** How full a bowl is, and when it will be. */
import { normalQuantile, type Multiplier } from './calibrate'

export type Range = { readonly low: number; readonly mid: number; readonly high: number }

/** Oil and water, each at a model rate per unit of driving (km, hours or sessions) with its learned multiplier. */
export type Filling = {
  readonly oil: number
  readonly water: number
  readonly oilMultiplier: Multiplier
  readonly waterMultiplier: Multiplier
}

/** Equal-probability points of each multiplier whose products stand for the two-dimensional spread. */
const POINTS = 24
const SCORES = Float64Array.from({ length: POINTS }, (_, i) => normalQuantile((i + 0.5) / POINTS))
const spread = (rate: number, m: Multiplier): Float64Array => SCORES.map((z) => rate * Math.exp(m.mu + m.sigma * z))

/** The `k`th and the next smallest of all sums of one of `a` and one of `b`, both sorted upwards; without making the sums. */
function neighboursInSums(a: Float64Array, b: Float64Array, k: number): readonly [number, number] {
  const within = (x: number) => {
    let count = 0
    for (let i = 0, j = b.length; i < a.length; i++) {
      while (j > 0 && a[i]! + b[j - 1]! > x) j--
      count += j
    }
    return count
  }
  // the kth smallest is the least sum that k + 1 sums do not exceed; halved until it alone lies between
  let low = 0
  let high = a[a.length - 1]! + b[b.length - 1]!
  for (let i = 0, below = 0, upTo = a.length * b.length; i < 60 && upTo - below > 1 && high - low > 1e-15 * high; i++) {
    const mid = (low + high) / 2
    const count = within(mid)
    if (count > k) [high, upTo] = [mid, count]
    else [low, below] = [mid, count]
  }
  let kth = 0
  let next = Infinity
  for (let i = 0, j = b.length; i < a.length; i++) {
    while (j > 0 && a[i]! + b[j - 1]! > high) j--
    if (j > 0) kth = Math.max(kth, a[i]! + b[j - 1]!)
    if (j < b.length) next = Math.min(next, a[i]! + b[j]!)
  }
  return [kth, within(high) > k + 1 ? kth : next]
}

/**
 * 10, 50 and 90 % quantiles of the filling rate: oil and water multipliers are independent lognormals, taken at 24 equally likely values
 * each; of the 576 sums those at the quantiles are found. Deterministic; within 1 % of a large Monte Carlo draw.
 * @example rateRange({ oil: 1, water: 0, oilMultiplier: { mu: 0, sigma: 0, entries: 0 }, waterMultiplier: { mu: 0, sigma: 0, entries: 0 } }).mid // 1
 */
export function rateRange(f: Filling): Range {
  const oil = spread(f.oil, f.oilMultiplier)
  const water = f.water > 0 ? spread(f.water, f.waterMultiplier) : new Float64Array(1)
  const count = oil.length * water.length
  const at = (q: number) => {
    const x = q * count - 0.5
    const i = Math.min(count - 2, Math.max(0, Math.floor(x)))
    const [one, other] = neighboursInSums(oil, water, i)
    return one + (other - one) * Math.min(1, Math.max(0, x - i))
  }
  return { low: at(0.1), mid: at(0.5), high: at(0.9) }
}

/**
 * What has gathered after `amount` of driving.
 * @example gathered({ low: 1, mid: 2, high: 4 }, 3) // { low: 3, mid: 6, high: 12 }
 */
export const gathered = (rate: Range, amount: number): Range => ({
  low: rate.low * amount,
  mid: rate.mid * amount,
  high: rate.high * amount,
})

/**
 * Driving until `volume` has gathered; its low end is the honest "check by": one car in ten is full by then. Infinity where nothing gathers.
 * @example untilFull({ low: 1, mid: 2, high: 4 }, 8) // { low: 2, mid: 4, high: 8 }
 */
export function untilFull(rate: Range, volume: number): Range {
  const at = (r: number) => (r > 0 ? Math.max(0, volume) / r : Infinity)
  return { low: at(rate.high), mid: at(rate.mid), high: at(rate.low) }
}
