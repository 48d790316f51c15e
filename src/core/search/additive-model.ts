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
  const columns = Array.from({ length: width }, () => new Uint16Array(choices.length))
  const rows = new Uint16Array(choices.length * width)
  for (let i = 0; i < choices.length; i++)
    for (let g = 0; g < width; g++) rows[i * width + g] = columns[g]![i] = choices[i]![g]!
  const counts = columns.map((column) => {
    const count = new Uint32Array(column.reduce((most, v) => Math.max(most, v), 0) + 1)
    for (const v of column) count[v]!++
    return count
  })
  const effects = counts.map((count) => new Float64Array(count.length))
  const left = new Float64Array(figures).map((x) => x - mean)
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (const [g, column] of columns.entries()) {
      const [count, old] = [counts[g]!, effects[g]!]
      const now = new Float64Array(count.length)
      for (let i = 0; i < left.length; i++) {
        const v = column[i]!
        now[v] = now[v]! + left[i]! + old[v]!
      }
      for (let v = 0; v < now.length; v++) now[v] = count[v]! > 0 ? now[v]! / (count[v]! + SHRINK) : 0
      for (let i = 0; i < left.length; i++) {
        const v = column[i]!
        left[i] = left[i]! + old[v]! - now[v]!
      }
      effects[g] = now
    }
  /** What the sum of effects leaves of the tries that are most like some choices, in the mean. */
  function leftNear(c: readonly number[]): number {
    const choice = new Uint16Array(c)
    let nearest = width + 1
    let [sum, like] = [0, 0]
    for (let i = 0, at = 0; i < left.length; i++, at += width) {
      let apart = 0
      for (let g = 0; g < width && apart <= nearest; g++) if (rows[at + g] !== choice[g]) apart++
      if (apart < nearest) {
        nearest = apart
        sum = 0
        like = 0
      }
      if (apart === nearest) {
        sum += left[i]!
        like++
      }
    }
    return like > 0 ? sum / (like + SHRINK) : 0
  }
  return { predict: (c) => c.reduce((sum, v, g) => sum + (effects[g]?.[v] ?? 0), mean) + leftNear(c) }
}
