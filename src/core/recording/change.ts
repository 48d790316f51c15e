/** Whether and since when the unknowns of a fitted series are others than before: by likelihood ratio over every sample (Page 1954). */
import type { BlockFit } from './block-fit'
import { huberWeight, solveSymmetric } from './robust'

export type SeriesChange = {
  /** index of the first sample after it, likely; and between which it lies */
  readonly at: number
  readonly from: number
  readonly to: number
  /** twice the logarithm of how much better the series is explained with it */
  readonly gain: number
  /** by how much each unknown moves there, in the straight model */
  readonly moves: readonly number[]
}

/** Gain from which a change is spoken of: no change gives so much in one series of some hundreds (simulated in its test). */
const LEAST_GAIN = 30
/** A time that gains so much less than the best is as likely to be it as one in seven. */
const AS_LIKELY = 4

/**
 * The likeliest change of a fitted series; undefined where none stands out from chance.
 * @param sigmas spread of each unknown before, as it was fitted with
 * @param least samples that either side must have
 * @param free index of an unknown that may differ from time to time anyway, as a sensor's offset does; -1 for none
 *
 * @example
 * import { fitBlocks } from '@/core/recording/block-fit'
 * import { findChange } from '@/core/recording/change'
 *
 * const measured = Float64Array.from({ length: 200 }, (_, k) => (k < 120 ? 0 : 1) + ((k * 7) % 10) / 20)
 * const blocks = Array.from({ length: 20 }, (_, b) => [10 * b, 10 * b + 10] as const)
 * const fit = fitBlocks((x) => new Float64Array(200).fill(x[0]), measured, { sigmas: [10], blocks, leastScale: 0.2, seed: 1 })
 * console.log(findChange({ ...fit, independent: 1 }, [10], 20).at) // 120
 */
export function findChange(
  { residuals, slopes, scale, independent }: Pick<BlockFit, 'residuals' | 'slopes' | 'scale' | 'independent'>,
  sigmas: readonly number[],
  least: number,
  free = -1,
): SeriesChange | undefined {
  const n = sigmas.length
  const count = residuals.length
  const square = new Float64Array(n * n)
  const right = new Float64Array(n)
  const add = (k: number, sign: number, toSquare: Float64Array, toRight: Float64Array) => {
    const r = residuals[k]!
    if (!Number.isFinite(r)) return
    const weight = (sign * independent * huberWeight(r, scale)) / (scale * scale)
    for (let i = 0; i < n; i++) {
      toRight[i]! += weight * slopes[i]![k]! * r
      for (let j = 0; j <= i; j++) toSquare[i * n + j]! += weight * slopes[i]![k]! * slopes[j]![k]!
    }
  }
  const prior = (a: Float64Array) => {
    for (let i = 0; i < n; i++) a[i * n + i]! += 1 / sigmas[i]! ** 2
  }
  for (let k = 0; k < count; k++) add(k, 1, square, right)
  const room = { x: new Float64Array(n), y: new Float64Array(n) }
  const [before, beforeRight] = [new Float64Array(n * n), new Float64Array(n)]
  const [after, afterRight] = [square.slice(), right.slice()]
  prior(before)
  prior(after)
  const whole = square.slice()
  prior(whole)
  const all = solveSymmetric(whole, right, room.x)
  // without a change: the same unknowns on either side, but for the one that is free
  const m = n + 1
  const [both, bothRight, z] = [new Float64Array(m * m), new Float64Array(m), new Float64Array(m)]
  const withoutChange = () => {
    if (free < 0) return all
    for (let i = 0; i < n; i++) {
      bothRight[i] = i === free ? beforeRight[i]! : right[i]!
      for (let j = 0; j <= i; j++) both[i * m + j] = i === free || j === free ? before[i * n + j]! : whole[i * n + j]!
    }
    bothRight[n] = afterRight[free]!
    for (let j = 0; j < n; j++) both[n * m + j] = j === free ? 0 : after[free > j ? free * n + j : j * n + free]!
    both[n * m + n] = after[free * n + free]!
    return solveSymmetric(both, bothRight, z)
  }
  const gains = new Float64Array(count).fill(-Infinity)
  let best = -1
  let moves: number[] = []
  for (let k = 0; k + least < count; k++) {
    add(k, 1, before, beforeRight)
    add(k, -1, after, afterRight)
    if (k + 1 < least) continue
    const gain =
      solveSymmetric(before, beforeRight, room.x) + solveSymmetric(after, afterRight, room.y) - withoutChange()
    gains[k + 1] = gain
    if (best < 0 || gain > gains[best]!) {
      best = k + 1
      moves = Array.from(room.y, (y, i) => y - room.x[i]!)
    }
  }
  if (best < 0 || gains[best]! < LEAST_GAIN) return undefined
  const likely = (g: number) => g > gains[best]! - AS_LIKELY
  return { at: best, from: gains.findIndex(likely), to: gains.findLastIndex(likely), gain: gains[best]!, moves }
}
