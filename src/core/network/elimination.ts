/** Linear equations of one sparsity pattern, solved again and again: which entries meet is worked out once. */

/**
 * Solves a x = b in place, the answer in `b`; `a` is n x n by rows and is zero off the pattern. False, with both spoilt, where a pivot is
 * too small against what stands below it: then rows must be exchanged, and the pattern no longer holds.
 */
export type Elimination = (a: Float64Array, b: Float64Array) => boolean

/** A pivot may be so much smaller than the largest entry below it. */
const LEAST_PIVOT = 0.01

/** Unknowns in the order in which they are eliminated, each with those after it that it then meets. */
type EliminationStep = { readonly unknown: number; readonly meets: readonly number[] }

/** The order of least degree: whoever meets the fewest goes next, and those that it met now meet each other (George & Liu, 1981, ch. 5). */
function leastDegree(n: number, pairs: readonly (readonly [number, number])[]): EliminationStep[] {
  const meets = Array.from({ length: n }, () => new Set<number>())
  for (const [i, j] of pairs) {
    if (i === j || i >= n || j >= n) continue
    meets[i]!.add(j)
    meets[j]!.add(i)
  }
  const left = new Set(meets.keys())
  const steps: EliminationStep[] = []
  while (left.size > 0) {
    let unknown = -1
    for (const k of left) if (unknown < 0 || meets[k]!.size < meets[unknown]!.size) unknown = k
    const others = [...meets[unknown]!]
    left.delete(unknown)
    for (const i of others) {
      meets[i]!.delete(unknown)
      for (const j of others) if (i !== j) meets[i]!.add(j)
    }
    steps.push({ unknown, meets: others })
  }
  return steps
}

/**
 * Gaussian elimination without exchange of rows, in the order of least degree. The matrix of a network, whose elements pass more from a
 * higher pressure and less to one, is dominated by its diagonal in every column, and needs none.
 * @param pairs unknowns that an element joins; those of `n` and above are known
 *
 * @example
 * import { eliminator } from '@/core/network/elimination'
 *
 * const b = new Float64Array([1, 1])
 * eliminator(2, [[0, 1]])(new Float64Array([2, -1, -1, 2]), b)
 * console.log([...b]) // [ 1, 1 ]
 */
export function eliminator(n: number, pairs: readonly (readonly [number, number])[]): Elimination {
  const steps = leastDegree(n, pairs)
  // places in `a` and `b`, written out in the order in which they are needed
  const down = Int32Array.from(
    steps.flatMap(({ unknown: k, meets }) => [
      k,
      k * n + k,
      meets.length,
      ...meets.map((i) => i * n + k),
      ...meets.map((j) => k * n + j),
      ...meets.flatMap((i) => [i, ...meets.map((j) => i * n + j)]),
    ]),
  )
  const up = Int32Array.from(
    steps
      .toReversed()
      .flatMap(({ unknown: k, meets }) => [k, k * n + k, meets.length, ...meets.flatMap((j) => [k * n + j, j])]),
  )
  return (a, b) => {
    for (let at = 0; at < down.length;) {
      const k = down[at]!
      const pivot = a[down[at + 1]!]!
      const count = down[at + 2]!
      const rows = at + 3
      const cols = rows + count
      at = cols + count
      for (let r = rows; r < cols; r++) if (Math.abs(pivot) < LEAST_PIVOT * Math.abs(a[down[r]!]!)) return false
      if (!(Math.abs(pivot) > 1e-300)) return false
      for (let r = rows; r < cols; r++) {
        const share = a[down[r]!]! / pivot
        b[down[at++]!]! -= share * b[k]!
        for (let c = cols; c < cols + count; c++) a[down[at++]!]! -= share * a[down[c]!]!
      }
    }
    for (let at = 0; at < up.length;) {
      const k = up[at]!
      const pivot = a[up[at + 1]!]!
      const end = at + 3 + 2 * up[at + 2]!
      let rest = b[k]!
      for (at += 3; at < end; at += 2) rest -= a[up[at]!]! * b[up[at + 1]!]!
      b[k] = rest / pivot
    }
    return true
  }
}
