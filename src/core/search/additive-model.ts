/**
 * What a figure is likely to be, from choices that were tried before: an additive model over choices, fitted by backfitting (Hastie & Tibshirani,
 * Generalized Additive Models, 1990), and what it leaves of the nearest tries, which holds what choices do together. It says where to look next,
 * never what is shown.
 */

/** Prior weight of "this choice does nothing", tries. */
const SHRINK = 0.5
const SWEEPS = 4

export type AdditiveModel = {
  /** @returns NaN before anything was fitted */
  readonly predict: (choices: readonly number[]) => number
}

/**
 * Fits a model to figures of choices.
 * @param choices whole numbers, all of one length @param figures one each, finite
 *
 * @example
 * import { fitAdditive } from '@/core/search/additive-model'
 *
 * const tried = [[0, 0], [1, 0], [0, 1], [1, 1], [0, 0], [1, 1]]
 * const { predict } = fitAdditive(tried, tried.map(([a, b]) => 10 + 4 * a + 2 * b))
 * console.log(predict([1, 0]) > predict([0, 1])) // true
 */
export function fitAdditive(choices: readonly (readonly number[])[], figures: readonly number[]): AdditiveModel {
  const width = choices[0]?.length ?? 0
  const mean = figures.reduce((sum, x) => sum + x, 0) / figures.length
  // thousands of plans are fitted again and again: loops over flat lists take a third of what lists of lists do
  const columns = Array.from({ length: width }, (_, g) => Uint16Array.from(choices, (c) => c[g]!))
  const counts = columns.map((column) => {
    const count = new Uint32Array(Math.max(0, ...column) + 1)
    for (const v of column) count[v]!++
    return count
  })
  const effects = counts.map((count) => new Float64Array(count.length))
  const left = Float64Array.from(figures, (x) => x - mean)
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (const [g, column] of columns.entries()) {
      const [count, old] = [counts[g]!, effects[g]!]
      const now = new Float64Array(count.length)
      for (let i = 0; i < left.length; i++) now[column[i]!] = now[column[i]!]! + left[i]! + old[column[i]!]!
      for (let v = 0; v < now.length; v++) now[v] = count[v]! > 0 ? now[v]! / (count[v]! + SHRINK) : 0
      for (let i = 0; i < left.length; i++) left[i] = left[i]! + old[column[i]!]! - now[column[i]!]!
      effects[g] = now
    }
  /** What the sum of effects leaves of the tries that are most like some choices, in the mean. */
  function leftNear(c: readonly number[]): number {
    let [nearest, sum, like] = [width + 1, 0, 0]
    for (let i = 0; i < left.length; i++) {
      let apart = 0
      for (let g = 0; g < width && apart <= nearest; g++) if (columns[g]![i] !== c[g]) apart++
      if (apart < nearest) [nearest, sum, like] = [apart, 0, 0]
      if (apart === nearest) {
        sum += left[i]!
        like++
      }
    }
    return like > 0 ? sum / (like + SHRINK) : 0
  }
  return { predict: (c) => c.reduce((sum, v, g) => sum + (effects[g]?.[v] ?? 0), mean) + leftNear(c) }
}
