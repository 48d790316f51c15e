/**
 * How well a straight model of unknowns that were standard normals explains measurements, and what it then predicts of another: the evidence
 * and the predictive of a linear Gaussian model (MacKay, Information Theory, 28; Bishop, Pattern Recognition, 3.3).
 */

/** A measurement less what the model has of it with all unknowns at 0, how it goes with each of them, and its own standard deviation. */
export type LinearReading = { readonly off: number; readonly slopes: ArrayLike<number>; readonly error: number }
export type PredictedShift = { readonly shift: number; readonly variance: number }
export type GaussianEvidence = {
  /** logarithm of the measurements' density */
  readonly log: number
  /** by how much a figure with these slopes is moved by what was measured, and its variance then, without an instrument's */
  readonly predict: (slopes: ArrayLike<number>) => PredictedShift
}

/**
 * Sum of the products of two lists of one length.
 *
 * @example
 * import { dotProduct } from '@/core/inference/gaussian-evidence'
 *
 * console.log(dotProduct([1, 2], [3, 4])) // 11
 */
export function dotProduct(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!
  return sum
}

/**
 * @param readings of unknowns that are standard normals beforehand; none is allowed
 *
 * @example
 * import { gaussianEvidence } from '@/core/inference/gaussian-evidence'
 *
 * // one unknown, read once two off with an error of one: half of it is believed
 * const evidence = gaussianEvidence([{ off: 2, slopes: [1], error: 1 }])
 * console.log(evidence.predict([1])) // { shift: 1, variance: 0.5 }
 */
export function gaussianEvidence(readings: readonly LinearReading[]): GaussianEvidence {
  const n = readings.length
  // Cholesky of H H^T + R
  const lower = readings.map((a, i) => {
    const row = new Float64Array(i + 1)
    for (let j = 0; j <= i; j++) row[j] = dotProduct(a.slopes, readings[j]!.slopes) + (i === j ? a.error * a.error : 0)
    return row
  })
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = lower[i]![j]!
      for (let k = 0; k < j; k++) sum -= lower[i]![k]! * lower[j]![k]!
      lower[i]![j] = i === j ? Math.sqrt(Math.max(sum, 1e-12)) : sum / lower[j]![j]!
    }
  /** L^-1 b */
  const solved = (b: Float64Array): Float64Array => {
    for (let i = 0; i < n; i++) {
      for (let k = 0; k < i; k++) b[i]! -= lower[i]![k]! * b[k]!
      b[i]! /= lower[i]![i]!
    }
    return b
  }
  const whitened = solved(Float64Array.from(readings, (r) => r.off))
  let log = (-n / 2) * Math.log(2 * Math.PI)
  for (let i = 0; i < n; i++) log -= Math.log(lower[i]![i]!) + whitened[i]! ** 2 / 2
  return {
    log,
    predict(slopes) {
      const across = solved(Float64Array.from(readings, (r) => dotProduct(r.slopes, slopes)))
      return {
        shift: dotProduct(across, whitened),
        variance: Math.max(0, dotProduct(slopes, slopes) - dotProduct(across, across)),
      }
    },
  }
}
