/** The balance of a network as numbers: what flows in at each free joint, and how that changes with its pressures. */
import type { Flow, Law } from './law'
import type { ElementEnds } from './layout'
import type { Elimination } from './elimination'
import { solveLinear } from './linear'

/** An element between two joints; its law is another when what it is made of is. */
export type Branch = ElementEnds & { law: Law }

export type System = {
  readonly source: Float64Array
  /** writes net inflow F (kg/s) and -dF/dp */
  readonly assemble: (p: Float64Array, F: Float64Array, J: Float64Array) => void
  /**
   * writes into `work.delta` the step that F and J as assembled at `p` ask for, and spoils J; false where there is none
   * @param drag what each joint holds back besides, kg/s per Pa that it moves
   */
  readonly newtonStep: (p: Float64Array, drag?: number) => boolean
  /** solves J x = b in place as far as no rows need be exchanged; `J` is symmetric in what is zero, as that of `assemble` */
  readonly solve: (J: Float64Array, b: Float64Array) => boolean
  readonly residual: (p: Float64Array) => number
  readonly work: { F: Float64Array; J: Float64Array; step: Float64Array; delta: Float64Array; trial: Float64Array }
}

/** @param joints all of them, of which the first `n` are free */
export function makeSystem(
  branches: readonly Branch[],
  source: Float64Array,
  joints: number,
  solve: Elimination,
): System {
  const n = source.length
  const f: Flow = { m: 0, d1: 0, d2: 0 }
  const work = {
    F: new Float64Array(n),
    J: new Float64Array(n * n),
    step: new Float64Array(n),
    delta: new Float64Array(n),
    trial: new Float64Array(joints),
  }
  const imbalance = (p: Float64Array, F: Float64Array) => {
    F.set(source)
    for (const b of branches) {
      b.law(p[b.i]!, p[b.j]!, f)
      if (b.i < n) F[b.i]! -= f.m
      if (b.j < n) F[b.j]! += f.m
    }
  }
  const assemble = (p: Float64Array, F: Float64Array, J: Float64Array) => {
    // a loop: for a handful of joints `set` takes longer
    for (let k = 0; k < n; k++) F[k] = source[k]!
    J.fill(0)
    for (let k = 0; k < branches.length; k++) {
      const { law, i, j } = branches[k]!
      law(p[i]!, p[j]!, f)
      const { m, d1, d2 } = f
      if (i < n) {
        F[i]! -= m
        J[i * n + i]! += d1
        if (j < n) {
          J[i * n + j]! += d2
          J[j * n + i]! -= d1
        }
      }
      if (j < n) {
        F[j]! += m
        J[j * n + j]! -= d2
      }
    }
  }
  return {
    work,
    source,
    assemble,
    newtonStep(p, drag = 0) {
      const { F, J, delta } = work
      const set = () => {
        for (let k = 0; k < n; k++) delta[k] = F[k]!
        if (drag > 0) for (let k = 0; k < n; k++) J[k * n + k]! += drag
      }
      set()
      if (solve(J, delta)) return true
      // a valve that shuts as suction rises turns slopes round, and rows must be exchanged
      assemble(p, F, J)
      set()
      return solveLinear(J, delta, n)
    },
    solve,
    residual(p) {
      imbalance(p, work.step)
      let most = 0
      for (const v of work.step) most = Math.max(most, Math.abs(v))
      return Number.isNaN(most) ? Infinity : most
    },
  }
}
