/** How full a bowl is, and when it will be. */
import { multiplierAt, type Multiplier } from './calibrate'

export type Range = { readonly low: number; readonly mid: number; readonly high: number }

/**
 * Range (10, 50 and 90 %) of what has gathered after `amount` of driving (km, hours or sessions) at model rates `oil` and `water` per
 * unit of driving, oil times the learned multiplier.
 */
export function gathered(m: Multiplier, oil: number, water: number, amount: number): Range {
  const at = (q: number) => amount * (oil * multiplierAt(m, q) + water)
  return { low: at(0.1), mid: at(0.5), high: at(0.9) }
}

/**
 * Range of driving until `volume` has gathered; the low end (10 %) is the honest "check by". Infinity where nothing gathers.
 * @example untilFull({ mu: 0, sigma: 0.8, entries: 0 }, 1e-5, 0, 1e-4).mid // 10
 */
export function untilFull(m: Multiplier, oil: number, water: number, volume: number): Range {
  const at = (q: number) => {
    const rate = oil * multiplierAt(m, q) + water
    return rate > 0 ? Math.max(0, volume) / rate : Infinity
  }
  return { low: at(0.9), mid: at(0.5), high: at(0.1) }
}
