/** Quickens the repetition of a map whose answer is the point that it leaves where it is. */
import { solveLinear } from './network/linear'

const DEPTH = 5

/**
 * Anderson's acceleration (J. ACM 12, 1965; type II of Walker & Ni, 2011) of y -> G(y): from the last few differences it takes the
 * combination that would leave the least residual. `weights` bring the unknowns to one scale. Returns the next y to try, given the last y
 * and what the map made of it; a map that creeps to its answer by the same share each time is there in a few.
 *
 * @example
 * import { accelerator } from '@/core/fixed-point'
 *
 * console.log(accelerator(1, new Float64Array([1]))(new Float64Array([0]), new Float64Array([0.5]))[0]) // 0.5
 */
export function accelerator(
  size: number,
  weights: Float64Array,
): (y: Float64Array, mapped: Float64Array) => Float64Array {
  const dF: Float64Array[] = []
  const dG: Float64Array[] = []
  let lastF: Float64Array | undefined
  let lastG: Float64Array | undefined
  return (y, mapped) => {
    const F = Float64Array.from({ length: size }, (_, i) => (mapped[i]! - y[i]!) * weights[i]!)
    if (lastF && lastG) {
      const [f, g] = [lastF, lastG]
      dF.push(F.map((v, i) => v - f[i]!))
      dG.push(mapped.map((v, i) => v - g[i]!))
      if (dF.length > DEPTH) {
        dF.shift()
        dG.shift()
      }
    }
    lastF = F
    lastG = mapped.slice()
    const m = dF.length
    if (m === 0) return mapped.slice()
    const dot = (a: Float64Array, b: Float64Array) => a.reduce((s, v, i) => s + v * b[i]!, 0)
    const A = new Float64Array(m * m)
    const b = new Float64Array(m)
    const trace = dF.reduce((s, v) => s + dot(v, v), 0)
    for (let i = 0; i < m; i++) {
      for (let j = 0; j < m; j++) A[i * m + j] = dot(dF[i]!, dF[j]!) + (i === j ? 1e-10 * trace : 0)
      b[i] = dot(dF[i]!, F)
    }
    if (!solveLinear(A, b, m)) return mapped.slice()
    return mapped.map((v, i) => v - dG.reduce((s, d, j) => s + b[j]! * d[i]!, 0))
  }
}
