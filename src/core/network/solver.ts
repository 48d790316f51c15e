/** A network made ready to be solved again and again: laws and joints are set up once, pressures and sources change from call to call. */
import { accelerator } from '../fixed-point'
import { fail, ok, type Result } from '../result'
import type { Network, Tee } from './elements'
import { firstGuess } from './first-guess'
import { solveLinear } from './linear'
import { flowLaw } from './flow'
import type { ElementEnds } from './layout'
import type { Flow, Law } from './law'
import { FULL_TOLERANCE, STUDY_TOLERANCE, newton, settleInTime, type Tolerance } from './newton'
import { MAX_PRESSURE, nodeProblem, problemIn, sizesProblem, unreached } from './problem'
import { makeSolverCache, type SolverCache } from './solver-cache'
import { makeSystem, type Branch, type System } from './system'
import { teeShifts } from './tee'

/** Largest mass imbalance that counts as solved, kg/s. */
export const MASS_TOLERANCE = 1e-9
/** No crankcase or can stands at this (Pa): an answer that has not settled and is above it has no way out. */
const PILED_UP = 1e6
/** Times that a balance is followed in time where Newton alone does not find it. */
const MOST_SETTLED = 3

/** Rounds in which the pressures at tees are brought to what their flows make of them by a quickened repetition, before Newton is tried. */
const QUICKENED = 25
/** Steps of Newton on those pressures, halvings of each, and the step of its differences, Pa. */
const TEE_STEPS = 16
const TEE_HALVINGS = 6
const TEE_DIFFERENCE = 0.5
/** What heads and flows at a tee may disagree by at most, Pa. */
const TEE_PA = 0.1

export type MassBalance = {
  /** Pa absolute by joint, in the solver's order; the solver's own array, good until it solves again */
  readonly p: Float64Array
  readonly residual: number
  readonly iterations: number
}

export type Solver = {
  /** joints: first those that are free, then those that hold a pressure */
  readonly ids: readonly string[]
  readonly index: ReadonlyMap<string, number>
  /** how many of them are free */
  readonly free: number
  /** joints that each element lies between */
  readonly ends: readonly ElementEnds[]
  /**
   * Takes over another network of the same joints and ends: its gas, pressures held, sources and elements. Only what differs is made anew.
   * False, and nothing changed, when its joints or ends are others.
   */
  readonly retune: (network: Network) => boolean
  /** from `start` (pressures by joint), from the last answer (`'last'`), or from a linear network of the same elements */
  readonly solve: (start?: ArrayLike<number> | 'last') => Result<MassBalance>
  /** kg/s that leave the pinned joint while it is held at `pPa`; everything else is solved */
  readonly leavingAt: (pPa: number, start?: ArrayLike<number> | 'last') => Result<number>
  /** kg/s through the `k`th element at the last answer */
  readonly flow: (k: number) => number
  /** Pa that tees take from the flow of the `k`th element on its way at the last answer; below zero where they suck it on */
  readonly teeLoss: (k: number) => number
  /** Pa absolute by joint at the last answer; the solver's own array */
  readonly pressures: () => Float64Array
}

type TeePoint = { readonly at: Float64Array; readonly off: Float64Array }

/** One step of Newton, by differences and with a line search, from pressures at tees to nearer ones; undefined where none is found. */
function nearerTees(
  { at, off }: TeePoint,
  tried: (to: Float64Array) => Float64Array | undefined,
): TeePoint | undefined {
  const used = [...at.keys()].filter((k) => at[k] !== 0 || off[k] !== 0)
  const n = used.length
  const slopes = new Float64Array(n * n)
  for (const [c, k] of used.entries()) {
    const beside = at.slice()
    beside[k]! += TEE_DIFFERENCE
    const then = tried(beside)
    if (!then) return undefined
    used.forEach((row, r) => (slopes[r * n + c] = (then[row]! - off[row]!) / TEE_DIFFERENCE))
  }
  const down = Float64Array.from(used, (k) => -off[k]!)
  if (!solveLinear(slopes, down, n)) return undefined
  const size = (x: Float64Array) => x.reduce((sum, v) => sum + v * v, 0)
  for (let half = 0, share = 1; half < TEE_HALVINGS; half++, share /= 2) {
    const to = at.slice()
    used.forEach((k, i) => (to[k]! += share * down[i]!))
    const then = tried(to)
    if (then && size(then) < size(off)) return { at: to, off: then }
  }
  return undefined
}

/** A law between pressures that differ from those of its joints. */
const shifted =
  (law: Law, at1: number, at2: number): Law =>
  (p1, p2, out) =>
    law(p1 + at1, p2 + at2, out)

/** The same joints in the same order, held where they were held, and elements of the same ends. */
function sameShape(a: Network, b: Network): boolean {
  if (a.shape !== undefined && a.shape === b.shape) return true
  const [one, other] = [Object.keys(a.nodes), Object.keys(b.nodes)]
  return (
    one.length === other.length &&
    a.elements.length === b.elements.length &&
    one.every((id, k) => id === other[k] && (a.nodes[id]!.p === undefined) === (b.nodes[id]!.p === undefined)) &&
    a.elements.every((e, k) => e === b.elements[k] || (e.from === b.elements[k]!.from && e.to === b.elements[k]!.to))
  )
}

export type SolverOptions = {
  /** a free joint that `leavingAt` may hold for a while */
  readonly pin?: string
  /** how closely `solve` balances; `leavingAt`, which gives a figure and no pressures, always takes the nearer */
  readonly aim?: Tolerance
  /** the caller's own, where it makes many solvers */
  readonly cache?: SolverCache
}

/**
 * @returns the solver; or why the network cannot be solved at all: an unknown joint, a number out of range, a joint that nothing reaches
 *
 * @example
 * import { makeSolver } from '@/core/network/solver'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * const orifice = {
 *   gas,
 *   nodes: { a: { source: 0.002 }, b: { p: 101325 } },
 *   elements: [{ id: 'o', kind: 'orifice' as const, from: 'a', to: 'b', cd: 0.62, areaM2: 1e-4 }],
 * }
 * const solver = makeSolver(orifice)
 * const balance = solver.ok && solver.value.solve()
 * if (balance && balance.ok) console.log(balance.value.p[0]) // 101845.72234499583
 */
export function makeSolver(
  network: Network,
  { pin, aim = FULL_TOLERANCE, cache = makeSolverCache() }: SolverOptions = {},
): Result<Solver> {
  const bad = problemIn(network, cache.sound)
  if (bad) return bad
  const { nodes } = network
  const { ids, index, free: n, ends, elimination } = cache.layoutOf(network, pin)
  const p = new Float64Array(ids.length)
  const source = new Float64Array(n)
  ids.forEach((id, k) => {
    if (k < n) source[k] = nodes[id]!.source ?? 0
    else p[k] = nodes[id]!.p!
  })
  const count = network.elements.length
  const laws = network.elements.map((e) => flowLaw(e, network.gas))
  const branches: Branch[] = ends.map(({ i, j }, k) => ({ law: laws[k]!.at, i, j }))
  // what tees add to the pressures at the ends of each element: at `from` in the first half, at `to` in the second
  const shifts = new Float64Array(2 * count)
  const lay = (k: number) => {
    const [at1, at2] = [shifts[k]!, shifts[count + k]!]
    branches[k]!.law = at1 === 0 && at2 === 0 ? laws[k]!.at : shifted(laws[k]!.at, at1, at2)
  }
  const walled = unreached(ids, branches, source)
  if (walled) return walled

  const whole = makeSystem(branches, source, ids.length, elimination(n))
  let pinned: System | undefined
  let now = network
  let heldProblem: ReturnType<typeof problemIn>

  function balance(
    system: System,
    unknowns: number,
    start: ArrayLike<number> | 'last' | undefined,
    aimed: Tolerance,
  ): Result<MassBalance> {
    if (heldProblem) return heldProblem
    if (start === undefined) firstGuess(system, branches, p, unknowns)
    else if (start !== 'last') for (let k = 0; k < unknowns; k++) p[k] = start[k]!
    let spent = 0
    let worst = 0
    const attempt = (most: number): boolean => {
      const a = newton(system, p, { most, aim: aimed })
      spent += a.iterations
      worst = a.worst
      return a.done
    }
    let done = unknowns === 0 || attempt(24)
    // behind a valve on its seat Newton is blind: the gas is followed, from a fresh start, until it is at rest
    for (let round = 0; round < MOST_SETTLED && !done; round++) {
      if (round === 0) firstGuess(system, branches, p, unknowns)
      spent += settleInTime(system, p, unknowns)
      done = attempt(60)
    }
    const residual = done && unknowns > 0 ? worst : system.residual(p)
    // gas that is pushed into a closed space piles up until even the leak of shut valves carries it: far above what any circuit holds
    const most = residual <= MASS_TOLERANCE ? MAX_PRESSURE : PILED_UP
    for (let k = 0; k < unknowns; k++) {
      if (p[k]! < most && p[k]! > 0) continue
      return fail(
        `Gas has no way out of ${ids[k]}: its pressure grows without end. A valve or plug shuts every path.`,
        ids[k],
      )
    }
    if (!(residual <= MASS_TOLERANCE))
      return fail(
        `Not converged: the flows at a joint still differ by ${residual.toExponential(1)} kg/s after ${spent} steps. Nothing is shown rather than a wrong number.`,
      )
    return ok({ p, residual, iterations: spent })
  }

  /** A balance whose tees stand as its own flows make them: solved, set by them, solved again from there. */
  function balanced(
    system: System,
    unknowns: number,
    start: ArrayLike<number> | 'last' | undefined,
    aimed: Tolerance,
  ): Result<MassBalance> {
    const { tees, elements, gas } = now
    let answer = balance(system, unknowns, start, aimed)
    if (!tees?.length) return answer
    const densityAt = ({ legs }: Tee) => {
      const leg = legs.find((l) => typeof l !== 'string')
      const b = leg && branches[leg.element]!
      return b ? p[leg.inwards > 0 ? b.j : b.i]! / (gas.R * gas.T) : 1
    }
    let spent = 0
    /** What the flows of the last balance make of the tees' pressures, less those that it was balanced with. */
    const offNow = (): Float64Array => teeShifts(elements.length, tees, flow, densityAt).map((pa, k) => pa - shifts[k]!)
    const most = (off: Float64Array) => off.reduce((m, pa) => Math.max(m, Math.abs(pa)), 0)
    const within = Math.min(aimed.pa, TEE_PA)
    /** Balances with other pressures at the tees; undefined where there is no balance. */
    const tried = (to: Float64Array): Float64Array | undefined => {
      shifts.set(to)
      for (let k = 0; k < count; k++) lay(k)
      answer = balance(system, unknowns, 'last', aimed)
      if (!answer.ok) return undefined
      spent += answer.value.iterations
      return offNow()
    }
    if (!answer.ok) return answer
    spent = answer.value.iterations
    let off: Float64Array | undefined = offNow()
    const quicken = accelerator(shifts.length, new Float64Array(shifts.length).fill(1))
    let best: TeePoint = { off, at: shifts.slice() }
    for (let round = 0; round < QUICKENED && off && most(off) > within; round++) {
      const from = shifts.slice()
      off = tried(
        quicken(
          from,
          from.map((pa, k) => pa + off![k]!),
        ),
      )
      if (off && most(off) < most(best.off)) best = { off, at: shifts.slice() }
    }
    // where a head's slope steps, repetition may go round it: then Newton, from the nearest that was met
    for (let step = 0; step < TEE_STEPS && (!off || most(off) > within); step++) {
      const better = nearerTees(best, tried)
      if (!better) break
      best = better
      off = tried(best.at)
    }
    const left = off ? most(off) : most(best.off)
    if (answer.ok && left <= TEE_PA) return ok({ ...answer.value, iterations: spent })
    return fail(
      `Not converged: the pressure at a tee still differs by ${left.toPrecision(2)} Pa from what its own flow makes of it. Nothing is shown rather than a wrong number.`,
    )
  }

  const f: Flow = { m: 0, d1: 0, d2: 0 }
  const flow = (k: number): number => {
    const b = branches[k]!
    b.law(p[b.i]!, p[b.j]!, f)
    return f.m
  }
  return ok({
    ids,
    index,
    free: n,
    ends,
    retune(next) {
      if (!sameShape(now, next)) return false
      // joints and ends are as they were: only figures can be wrong
      heldProblem = sizesProblem(next, cache.sound)
      if (heldProblem) return true
      const { T, R, gamma } = now.gas
      const otherGas = next.gas.T !== T || next.gas.R !== R || next.gas.gamma !== gamma
      for (let k = 0; k < count; k++) {
        const e = next.elements[k]!
        if (!otherGas && e === now.elements[k]) continue
        if (laws[k]!.tune(e, next.gas)) continue
        laws[k] = flowLaw(e, next.gas)
        lay(k)
      }
      for (let k = 0; k < ids.length; k++) {
        const node = next.nodes[ids[k]!]!
        heldProblem ??= nodeProblem(ids[k]!, node)
        if (node.p !== undefined) p[k] = node.p
        else source[k] = node.source ?? 0
      }
      now = next
      return true
    },
    solve: (start) => balanced(whole, n, start, aim),
    leavingAt(pPa, start) {
      if (pin === undefined || index.get(pin) !== n - 1) return fail('No joint of this network was pinned.')
      pinned ??= makeSystem(branches, source.subarray(0, n - 1), ids.length, elimination(n - 1))
      p[n - 1] = pPa
      const solved = balanced(pinned, n - 1, start, STUDY_TOLERANCE)
      if (!solved.ok) return solved
      let leaving = 0
      branches.forEach((b, k) => {
        if (b.i === n - 1) leaving += flow(k)
        if (b.j === n - 1) leaving -= flow(k)
      })
      return ok(leaving)
    },
    flow,
    teeLoss: (k) => {
      const m = flow(k)
      return Math.abs(m) < MASS_TOLERANCE ? 0 : Math.sign(m) * (shifts[count + k]! - shifts[k]!)
    },
    pressures: () => p,
  })
}

/**
 * A solver for `network`: the one at hand where it can take it over, else a new one.
 *
 * @example
 * import { solverFor } from '@/core/network/solver'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * const orifice = {
 *   gas,
 *   nodes: { a: { source: 0.002 }, b: { p: 101325 } },
 *   elements: [{ id: 'o', kind: 'orifice' as const, from: 'a', to: 'b', cd: 0.62, areaM2: 1e-4 }],
 * }
 * const first = solverFor(orifice, undefined)
 * if (first.ok) console.log(solverFor({ ...orifice, gas: { ...gas, T: 300 } }, first.value).value === first.value) // true
 */
export const solverFor = (network: Network, atHand: Solver | undefined, options: SolverOptions = {}): Result<Solver> =>
  atHand?.retune(network) ? ok(atHand) : makeSolver(network, options)
