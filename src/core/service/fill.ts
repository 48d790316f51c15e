/** How full a bowl is, and when it will be. */
import type { Range } from '../range'

export type { Range } from '../range'

/**
 * What has gathered after `amount` of driving.
 *
 * @example
 * import { accumulated } from '@/core/service/fill'
 *
 * console.log(accumulated({ low: 1, mid: 2, high: 4 }, 3)) // { low: 3, mid: 6, high: 12 }
 */
export const accumulated = (rate: Range, amount: number): Range => ({
  low: rate.low * amount,
  mid: rate.mid * amount,
  high: rate.high * amount,
})

/**
 * Driving until `volume` has gathered; its low end is the honest "check by": one car in ten is full by then. Infinity where nothing gathers.
 *
 * @example
 * import { untilFull } from '@/core/service/fill'
 *
 * console.log(untilFull({ low: 1, mid: 2, high: 4 }, 8)) // { low: 2, mid: 4, high: 8 }
 */
export function untilFull(rate: Range, volume: number): Range {
  const at = (r: number) => (r > 0 ? Math.max(0, volume) / r : Infinity)
  return { low: at(rate.high), mid: at(rate.mid), high: at(rate.low) }
}
