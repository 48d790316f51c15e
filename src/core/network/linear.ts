/**
 * Solves a x = b in place by Gaussian elimination with row exchange; the answer stands in `b`. `a` is n x n by rows.
 * Returns false when the matrix is singular to working precision.
 *
 * @example
 * import { solveLinear } from '@/core/network/linear'
 *
 * const b = new Float64Array([2, 4])
 * solveLinear(new Float64Array([2, 0, 0, 4]), b, 2)
 * console.log([...b]) // [ 1, 1 ]
 */
export function solveLinear(a: Float64Array, b: Float64Array, n: number): boolean {
  for (let k = 0; k < n; k++) {
    let pivot = k
    let best = Math.abs(a[k * n + k]!)
    for (let i = k + 1; i < n; i++) {
      const v = Math.abs(a[i * n + k]!)
      if (v > best) {
        best = v
        pivot = i
      }
    }
    if (!(best > 1e-300)) return false
    if (pivot !== k) {
      for (let j = k; j < n; j++) {
        const t = a[k * n + j]!
        a[k * n + j] = a[pivot * n + j]!
        a[pivot * n + j] = t
      }
      const t = b[k]!
      b[k] = b[pivot]!
      b[pivot] = t
    }
    const d = a[k * n + k]!
    for (let i = k + 1; i < n; i++) {
      const f = a[i * n + k]! / d
      if (f === 0) continue
      for (let j = k + 1; j < n; j++) a[i * n + j]! -= f * a[k * n + j]!
      b[i]! -= f * b[k]!
    }
  }
  for (let i = n - 1; i >= 0; i--) {
    let s = b[i]!
    for (let j = i + 1; j < n; j++) s -= a[i * n + j]! * b[j]!
    b[i] = s / a[i * n + i]!
  }
  return true
}
