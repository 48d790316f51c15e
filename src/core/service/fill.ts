/** How full a bowl is, and when it will be. */
import { multiplierAt, type Multiplier } from './calibrate'

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
const QUANTILES = Array.from({ length: POINTS }, (_, i) => (i + 0.5) / POINTS)

/**
 * 10, 50 and 90 % quantiles of the filling rate: oil and water multipliers are independent lognormals, taken at 24 equally likely values
 * each; the 576 sums are sorted. Deterministic; within 1 % of a large Monte Carlo draw.
 */
export function rateRange(f: Filling): Range {
  const oil = QUANTILES.map((q) => f.oil * multiplierAt(f.oilMultiplier, q))
  const water = f.water > 0 ? QUANTILES.map((q) => f.water * multiplierAt(f.waterMultiplier, q)) : [0]
  const sums = Float64Array.from(oil.flatMap((o) => water.map((w) => o + w))).toSorted()
  const at = (q: number) => {
    const x = q * sums.length - 0.5
    const i = Math.min(sums.length - 2, Math.max(0, Math.floor(x)))
    return sums[i]! + (sums[i + 1]! - sums[i]!) * Math.min(1, Math.max(0, x - i))
  }
  return { low: at(0.1), mid: at(0.5), high: at(0.9) }
}

/** What has gathered after `amount` of driving. */
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
