/** Steady pressures and flows of a network. */
import { fail, ok, type Result } from '../result'
import type { Network } from './elements'
import { flowLaw, SHUT_LEAK, type Flow, type Law, type Tie } from './flow'
import { solveLinear } from './linear'
import { MAX_PRESSURE, problemIn, unreached } from './problem'
import { settleTrapped } from './trapped'

export type Solution = {
  /** Pa absolute at every node */
  readonly pressure: Readonly<Record<string, number>>
  /** kg/s through every element, positive from `from` to `to` */
  readonly flow: Readonly<Record<string, number>>
  /** largest mass imbalance at a free node, kg/s */
  readonly residual: number
  readonly iterations: number
}

/** Largest mass imbalance that counts as solved, kg/s. */
export const MASS_TOLERANCE = 1e-9
/** Where Newton aims: well inside the tolerance, and no pressure still moving by more than this (Pa). */
const AIM_KG_S = 1e-11
const AIM_PA = 1e-3
/** No crankcase or can stands at this (Pa): an answer that has not settled and is above it has no way out. */
const PILED_UP = 1e6
/** Leaks of shut valves on the way to a hard answer, kg/(s Pa). */
const LEAKS = [1e-7, 3e-9, 1e-10, 3e-12, 1e-13, SHUT_LEAK]

type Branch = { readonly law: Law; readonly i: number; readonly j: number }

/**
 * Solves mass balance at every free node of `network` for its pressure.
 *
 * Newton on the node pressures with a line search. Where that stalls (a check on its seat says nothing of where it would open) it is
 * repeated with valves that leak, tightened step by step; and where that stalls too, the balance is followed in time, each node a small
 * volume, by implicit Euler with growing steps until it is at rest. Same network, same answer.
 *
 * @param start optional first pressures by node, Pa; else a linear network of the same elements gives them
 * @returns pressures in Pa, flows in kg/s; or the reason why there is no answer: an unknown node, a number out of range, gas with no
 *   way out, not converged to 1e-9 kg/s. It never returns a NaN.
 * @example solveNetwork({ gas: { R: 287.05, gamma: 1.4, T: 353.15 }, nodes: { a: { source: 0.002 }, b: { p: 101325 } },
 *   elements: [{ id: 'h', kind: 'hose', from: 'a', to: 'b', boreM: 0.0127, lengthM: 1.2, roughnessM: 1.5e-6, kFixed: 1, kPerF: 0 }] })
 */
export function solveNetwork(network: Network, start?: Readonly<Record<string, number>>): Result<Solution> {
  const bad = problemIn(network)
  if (bad) return bad
  const ids = Object.keys(network.nodes)
  const free = ids.filter((id) => network.nodes[id]!.p === undefined)
  const order = [...free, ...ids.filter((id) => network.nodes[id]!.p !== undefined)]
  const index = new Map(order.map((id, k) => [id, k]))
  const n = free.length
  const p = Float64Array.from(order, (id) => network.nodes[id]!.p ?? 0)
  const source = Float64Array.from(free, (id) => network.nodes[id]!.source ?? 0)
  const tie: Tie = { leak: SHUT_LEAK }
  const branches: Branch[] = network.elements.map((e) => ({ law: flowLaw(e, network.gas, tie), i: index.get(e.from)!, j: index.get(e.to)! }))

  const walled = unreached(order, branches, source)
  if (walled) return walled

  const system = makeSystem(branches, source, n)
  if (start) free.forEach((id, k) => { p[k] = start[id] ?? 101325 })
  else firstGuess(system, branches, p, n)

  let spent = 0
  const attempt = (most: number): boolean => {
    const a = newton(system, p, n, most)
    spent += a.iterations
    return a.done
  }
  let done = n === 0 || attempt(24)
  if (!done) {
    // behind a valve on its seat Newton is blind: let valves leak, and tighten them step by step
    firstGuess(system, branches, p, n)
    for (const leak of LEAKS) { tie.leak = leak; done = attempt(24) }
  }
  for (let round = 0; round < 2; round++) {
    if (done) break
    spent += settle(system, p, n)
    done = attempt(60)
  }
  const residual = system.residual(p)
  // gas that is pushed into a closed space piles up until even the leak of shut valves carries it: far above what any circuit holds
  const most = residual <= MASS_TOLERANCE ? MAX_PRESSURE : PILED_UP
  for (let k = 0; k < n; k++) if (!(p[k]! < most) || !(p[k]! > 0)) return fail(`Gas has no way out of ${free[k]}: its pressure grows without end. A valve or plug shuts every path.`, free[k])
  if (!(residual <= MASS_TOLERANCE)) return fail(`Not converged: the flows at a joint still differ by ${residual.toExponential(1)} kg/s after ${spent} steps. Nothing is shown rather than a wrong number.`)

  const flow: Record<string, number> = {}
  const f: Flow = { m: 0, d1: 0, d2: 0 }
  network.elements.forEach((e, k) => {
    const b = branches[k]!
    b.law(p[b.i]!, p[b.j]!, f)
    flow[e.id] = f.m
  })
  const pressure: Record<string, number> = {}
  order.forEach((id, k) => { pressure[id] = p[k]! })
  settleTrapped(network, pressure, flow)
  return ok({ pressure, flow, residual, iterations: spent })
}

type System = {
  readonly source: Float64Array
  /** writes net inflow F (kg/s) and -dF/dp */
  readonly assemble: (p: Float64Array, F: Float64Array, J: Float64Array) => void
  readonly residual: (p: Float64Array) => number
  readonly work: { F: Float64Array; J: Float64Array; step: Float64Array }
}

function makeSystem(branches: readonly Branch[], source: Float64Array, n: number): System {
  const f: Flow = { m: 0, d1: 0, d2: 0 }
  const work = { F: new Float64Array(n), J: new Float64Array(n * n), step: new Float64Array(n) }
  const imbalance = (p: Float64Array, F: Float64Array) => {
    F.set(source)
    for (const b of branches) {
      b.law(p[b.i]!, p[b.j]!, f)
      if (b.i < n) F[b.i]! -= f.m
      if (b.j < n) F[b.j]! += f.m
    }
  }
  return {
    work, source,
    assemble(p, F, J) {
      F.set(source)
      J.fill(0)
      for (const b of branches) {
        b.law(p[b.i]!, p[b.j]!, f)
        if (b.i < n) {
          F[b.i]! -= f.m
          J[b.i * n + b.i]! += f.d1
          if (b.j < n) J[b.i * n + b.j]! += f.d2
        }
        if (b.j < n) {
          F[b.j]! += f.m
          J[b.j * n + b.j]! -= f.d2
          if (b.i < n) J[b.j * n + b.i]! -= f.d1
        }
      }
    },
    residual(p) {
      imbalance(p, work.step)
      let most = 0
      for (const v of work.step) most = Math.max(most, Math.abs(v))
      return Number.isNaN(most) ? Infinity : most
    },
  }
}

/** Each element as a straight conductance gives pressures to start from: first at a drop of 1 kPa, then at the drops so found. */
function firstGuess(system: System, branches: readonly Branch[], p: Float64Array, n: number): void {
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
    const solved = solveLinear(J, F, n)
    for (let k = 0; k < n; k++) p[k] = solved && F[k]! > 0 ? F[k]! : mean
  }
}

const sumSquares = (F: Float64Array) => { let s = 0; for (const v of F) s += v * v; return s }

/** Moves by t delta, each pressure by no more than a factor in one step: behind a valve on its seat Newton's own step has no bound. */
function stepBy(p: Float64Array, delta: Float64Array, t: number, into: Float64Array, n: number): void {
  for (let k = 0; k < n; k++) into[k] = Math.min(Math.max(p[k]! + t * delta[k]!, p[k]! / 4), p[k]! * 4)
}

/**
 * How far along `delta` to go: halves while that helps. A root-law orifice near equal pressures makes full steps bounce from side to
 * side of the answer, each a little smaller; half a step then lands on it, so a full step is taken at once only if it gains much.
 * `last` says that the best was also the last assembled.
 */
function shorten(system: System, p: Float64Array, delta: Float64Array, norm: number, trial: Float64Array, n: number): { t: number; norm: number; last: boolean } {
  const { F, J } = system.work
  let best = { t: 0, norm: Infinity, last: false }
  for (let cut = 0, t = 1; cut < 14; cut++, t /= 2) {
    stepBy(p, delta, t, trial, n)
    system.assemble(trial, F, J)
    const next = sumSquares(F)
    if (next >= best.norm && best.norm < norm) return { ...best, last: false }
    if (next < best.norm) best = { t, norm: next, last: true }
    if (best.norm < 0.1 * norm) return best
  }
  return { ...best, last: false }
}

function newton(system: System, p: Float64Array, n: number, most: number): { done: boolean; iterations: number } {
  const { F, J } = system.work
  const trial = Float64Array.from(p)
  const delta = new Float64Array(n)
  system.assemble(p, F, J)
  let norm = sumSquares(F)
  for (let it = 1; it <= most; it++) {
    let worst = 0
    for (const v of F) worst = Math.max(worst, Math.abs(v))
    delta.set(F)
    if (!solveLinear(J, delta, n)) return { done: false, iterations: it }
    let move = 0
    for (const v of delta) move = Math.max(move, Math.abs(v))
    // the last step is not taken: from a valve's seat even a thousandth of a pascal may open it
    if (worst <= AIM_KG_S && move <= AIM_PA) return { done: true, iterations: it }
    const best = shorten(system, p, delta, norm, trial, n)
    if (best.norm >= norm && !(best.norm <= norm && worst <= AIM_KG_S)) {
      // at the floor of rounding the balance cannot fall further: that is solved, if it is small
      // (a space that valves shut off has no pressure of its own to find; `settleTrapped` gives it one)
      return { done: worst <= AIM_KG_S, iterations: it }
    }
    norm = best.norm
    stepBy(p, delta, best.t, p, n)
    if (!best.last) system.assemble(p, F, J)
  }
  return { done: false, iterations: most }
}

/**
 * Follows the balance in time, one litre at each node, by implicit Euler: C (p - before)/dt = F(p), one Newton step each. A step whose
 * equation that one step does not nearly solve (a valve came off its seat) is taken back and made shorter; otherwise the next is longer,
 * until steps are so long that what they reach is at rest.
 */
function settle(system: System, p: Float64Array, n: number): number {
  const { F, J } = system.work
  const delta = new Float64Array(n)
  const before = new Float64Array(n)
  const capacity = 1e-8 // kg/Pa: about a litre at 350 K
  let dt = 1e-4
  for (let step = 1; step <= 400; step++) {
    system.assemble(p, F, J)
    const size = Math.sqrt(sumSquares(F))
    if (size < AIM_KG_S) return step
    for (let k = 0; k < n; k++) J[k * n + k]! += capacity / dt
    delta.set(F)
    if (!solveLinear(J, delta, n)) return step
    before.set(p.subarray(0, n))
    let clipped = false
    for (let k = 0; k < n; k++) {
      const to = Math.min(Math.max(p[k]! + delta[k]!, p[k]! / 2), p[k]! * 2)
      clipped ||= to !== p[k]! + delta[k]!
      p[k] = to
    }
    system.assemble(p, F, J)
    let off = 0
    for (let k = 0; k < n; k++) off += (F[k]! - capacity / dt * (p[k]! - before[k]!)) ** 2
    const solved = Math.sqrt(off) / size
    if ((clipped || solved > 0.3) && dt > 1e-9) {
      p.set(before)
      dt /= 5
    } else if (dt > 1e6) return step
    else dt *= solved < 0.03 ? 4 : 1.6
  }
  return 400
}
