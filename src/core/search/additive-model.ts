/**
 * What a figure is likely to be, from choices that were tried before: an additive model over choices, fitted by backfitting (Hastie & Tibshirani,
 * Generalized Additive Models, 1990). It says where to look next, never what is shown.
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
  const effects = Array.from({ length: width }, () => [] as number[])
  const left = figures.map((x) => x - mean)
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (let g = 0; g < width; g++) {
      const [sums, counts]: [number[], number[]] = [[], []]
      const old = effects[g]!
      choices.forEach((c, i) => {
        const v = c[g]!
        sums[v] = (sums[v] ?? 0) + left[i]! + (old[v] ?? 0)
        counts[v] = (counts[v] ?? 0) + 1
      })
      const now = Array.from(sums, (sum, v) => (counts[v] ? sum! / (counts[v] + SHRINK) : 0))
      choices.forEach((c, i) => (left[i] = left[i]! + (old[c[g]!] ?? 0) - now[c[g]!]!))
      effects[g] = now
    }
  return { predict: (c) => c.reduce((sum, v, g) => sum + (effects[g]?.[v] ?? 0), mean) }
}
