/** What the fit of a series and the search for its change share: how much a stray sample counts, how far samples stray, small systems. */

const { abs, max, min, sqrt } = Math

/** Errors count in full up to so many standard deviations (95 % as good as least squares where they are normal; Huber, Robust Statistics). */
export const HUBER = 1.345

/**
 * Share to which a residual counts: 1 within 1.345 standard deviations, less beyond.
 * @param scale standard deviation, above 0, in the unit of the residual
 *
 * @example
 * import { huberWeight } from '@/core/recording/robust'
 *
 * console.log(huberWeight(2.69, 1)) // 0.5
 */
export const huberWeight = (residual: number, scale: number): number =>
  min(1, (HUBER * scale) / max(abs(residual), 1e-300))

/**
 * Standard deviation by the middle of what values are off 0 by, so that wild ones count for nothing; those that are not numbers are left out.
 *
 * @example
 * import { robustDeviation } from '@/core/recording/robust'
 *
 * console.log(robustDeviation([-1, 1, 1, 90])) // 1.4826
 */
export function robustDeviation(values: ArrayLike<number>): number {
  const off = Array.from(values, abs)
    .filter(Number.isFinite)
    .toSorted((a, b) => a - b)
  return 1.4826 * (off[off.length >> 1] ?? 0)
}

/**
 * Solves a x = b for a symmetric positive matrix by Cholesky.
 * @param a by rows, of which the lower half is read
 * @param x takes the answer; as long as b
 * @returns b a^-1 b
 *
 * @example
 * import { solveSymmetric } from '@/core/recording/robust'
 *
 * const x = new Float64Array(2)
 * console.log(solveSymmetric(Float64Array.of(4, 0, 0, 1), Float64Array.of(2, 3), x)) // 10
 */
export function solveSymmetric(a: ArrayLike<number>, b: ArrayLike<number>, x: Float64Array): number {
  const n = b.length
  const l = new Float64Array(n * n)
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = a[i * n + j]!
      for (let k = 0; k < j; k++) sum -= l[i * n + k]! * l[j * n + k]!
      l[i * n + j] = i === j ? sqrt(max(1e-300, sum)) : sum / l[j * n + j]!
    }
  let form = 0
  for (let i = 0; i < n; i++) {
    let sum = b[i]!
    for (let k = 0; k < i; k++) sum -= l[i * n + k]! * x[k]!
    x[i] = sum / l[i * n + i]!
    form += x[i]! * x[i]!
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = x[i]!
    for (let k = i + 1; k < n; k++) sum -= l[k * n + i]! * x[k]!
    x[i] = sum / l[i * n + i]!
  }
  return form
}
