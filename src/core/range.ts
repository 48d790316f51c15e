/** What is likely: four in five cases lie between the ends. */
export type Range = { readonly low: number; readonly mid: number; readonly high: number }

/**
 * The 10, 50 and 90 % points of what gives quantiles.
 *
 * @example
 * import { rangeOf } from '@/core/range'
 *
 * console.log(rangeOf((q) => 100 * q)) // { low: 10, mid: 50, high: 90 }
 */
export const rangeOf = (at: (q: number) => number): Range => ({ low: at(0.1), mid: at(0.5), high: at(0.9) })
