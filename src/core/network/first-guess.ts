/** Pressures that Newton starts from. */
import type { Flow } from './law'
import type { Branch, System } from './system'

/** What every element is first taken to stand at, of the spread of the pressures that are held; half a drop, Pa. */
const FIRST_SHARE = 1 / 8
const [LEAST_FIRST, LEAST_HALF_DROP, MOST_HALF_DROP] = [500, 0.5, 4e4]
/** Share of what an element was taken to pass that it still does on the next pass, so that a shut valve does not wall gas in. */
const LEFT_OPEN = 0.03
const PASSES = 3

/**
 * Each element as a straight conductance, at the drop that the pass before found for it. A drop that was overrated is so again, by its
 * root, where a root-law element is taken at that drop, and underrated as much where it is taken at what the flow that was found needs: so
 * it is taken at their geometric mean.
 */
export function firstGuess(system: System, branches: readonly Branch[], p: Float64Array, n: number): void {
  const f: Flow = { m: 0, d1: 0, d2: 0 }
  const { F, J } = system.work
  let mean = 0
  let least = Infinity
  let most = 0
  for (let k = n; k < p.length; k++) {
    mean += p[k]! / (p.length - n)
    least = Math.min(least, p[k]!)
    most = Math.max(most, p[k]!)
  }
  for (let k = 0; k < n; k++) p[k] = mean
  const halfDrop = new Float64Array(branches.length).fill(Math.max(LEAST_FIRST, (most - least) * FIRST_SHARE))
  const conductance = new Float64Array(branches.length)
  for (let pass = 0; pass < PASSES; pass++) {
    for (let k = 0; k < n; k++) F[k] = system.source[k]!
    J.fill(0)
    for (let k = 0; k < branches.length; k++) {
      const { law, i, j } = branches[k]!
      const found = (p[i]! - p[j]!) / 2
      const size = Math.abs(found)
      let d = halfDrop[k]!
      if (pass > 0) d = Math.min(MOST_HALF_DROP, Math.max(LEAST_HALF_DROP, size * Math.sqrt(size / d)))
      const at = pass === 0 ? mean : (p[i]! + p[j]!) / 2
      // at first all run downstream, the way that every kind lets gas run
      if (pass === 0 || found >= 0) law(at + d, Math.max(1, at - d), f)
      else law(Math.max(1, at - d), at + d, f)
      const g = Math.max(Math.abs(f.m) / (2 * d), LEFT_OPEN * conductance[k]!, 1e-15)
      halfDrop[k] = d
      conductance[k] = g
      if (i < n) {
        J[i * n + i]! += g
        if (j < n) {
          J[j * n + i]! -= g
          J[i * n + j]! -= g
        } else F[i]! += g * p[j]!
      }
      if (j < n) {
        J[j * n + j]! += g
        if (i >= n) F[j]! += g * p[i]!
      }
    }
    const solved = system.solve(J, F)
    for (let k = 0; k < n; k++) p[k] = solved && F[k]! > 0 ? F[k]! : mean
  }
}
