/** The balance of a network as numbers: what flows in at each free joint, how that changes with its pressures, and pressures to start from. */
import { keptFor } from '../kept'
import type { Flow, Law } from './law'
import { eliminator, type Elimination } from './elimination'
import { solveLinear } from './linear'

/** An element between two joints; its law is another when what it is made of is. */
export type Branch = { law: Law; readonly i: number; readonly j: number }

export type System = {
  readonly source: Float64Array
  /** writes net inflow F (kg/s) and -dF/dp */
  readonly assemble: (p: Float64Array, F: Float64Array, J: Float64Array) => void
  /** writes into `work.delta` the step that F and J as assembled at `p` ask for, and spoils J; false where there is none */
  readonly newtonStep: (p: Float64Array) => boolean
  /** solves J x = b in place as far as no rows need be exchanged; `J` is symmetric in what is zero, as that of `assemble` */
  readonly solve: (J: Float64Array, b: Float64Array) => boolean
  readonly residual: (p: Float64Array) => number
  readonly work: { F: Float64Array; J: Float64Array; step: Float64Array; delta: Float64Array; trial: Float64Array }
}

/** What the joints of a system are numbered by: networks of one shape, and the joint that comes last of the free ones, are numbered alike. */
export type Numbering = { readonly shape: object | undefined; readonly last: string | undefined }
const eliminations = keptFor<object, Map<string, Elimination>>(() => new Map())
function eliminationOf(branches: readonly Branch[], n: number, { shape, last = '' }: Numbering): Elimination {
  // a network without a shape is solved once: an order would not pay
  if (!shape) return dense(n)
  const ofShape = eliminations(shape)
  const key = `${n} ${last}`
  let known = ofShape.get(key)
  if (!known) {
    const pairs = branches.map((b) => [b.i, b.j] as const)
    ofShape.set(key, (known = eliminator(n, pairs)))
  }
  return known
}
const dense = (n: number): Elimination => ({
  pattern: Int32Array.from({ length: n * n }, (_, k) => k),
  solve: (a, b) => solveLinear(a, b, n),
})

/** @param joints all of them, of which the first `n` are free */
export function makeSystem(
  branches: readonly Branch[],
  source: Float64Array,
  n: number,
  joints: number,
  numbering: Numbering,
): System {
  const f: Flow = { m: 0, d1: 0, d2: 0 }
  const { pattern, solve } = eliminationOf(branches, n, numbering)
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
    for (let k = 0; k < pattern.length; k++) J[pattern[k]!] = 0
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
    newtonStep(p) {
      const { F, J, delta } = work
      delta.set(F)
      if (solve(J, delta)) return true
      // a valve that shuts as suction rises turns slopes round, and rows must be exchanged
      assemble(p, F, J)
      delta.set(F)
      return solveLinear(J.slice(), delta, n)
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

/** Each element as a straight conductance gives pressures to start from: first at a drop of 1 kPa, then at the drops so found. */
export function firstGuess(system: System, branches: readonly Branch[], p: Float64Array, n: number): void {
  const f: Flow = { m: 0, d1: 0, d2: 0 }
  const { F, J } = system.work
  let mean = 0
  for (let k = n; k < p.length; k++) mean += p[k]! / (p.length - n)
  const tieIn = (i: number, j: number, g: number) => {
    if (i >= n) return
    J[i * n + i]! += g
    if (j < n) J[i * n + j]! -= g
    else F[i]! += g * p[j]!
  }
  for (let pass = 0; pass < 2; pass++) {
    F.set(system.source)
    J.fill(0)
    for (const b of branches) {
      // half the drop found, so that what the first pass overrated is not believed whole
      const d = pass === 0 ? 500 : Math.max(1, Math.abs(p[b.i]! - p[b.j]!) / 2)
      const at = pass === 0 ? mean : (p[b.i]! + p[b.j]!) / 2
      // downstream is the way that every kind lets gas run
      b.law(at + d, Math.max(1, at - d), f)
      const g = Math.max(f.m / (2 * d), 1e-15)
      tieIn(b.i, b.j, g)
      tieIn(b.j, b.i, g)
    }
    const solved = system.solve(J, F)
    for (let k = 0; k < n; k++) p[k] = solved && F[k]! > 0 ? F[k]! : mean
  }
}
