/** Steady pressures and flows of a network. */
import { circleArea } from '../circle'
import { ok, type Result } from '../result'
import type { Network } from './elements'
import { makeSolver, type MassBalance, type Solver } from './solver'
import type { SolverCache } from './solver-cache'
import { settleTrapped } from './trapped'

export type Solution = {
  /** Pa absolute at every node */
  readonly pressure: Readonly<Record<string, number>>
  /** kg/s through every element, positive from `from` to `to` */
  readonly flow: Readonly<Record<string, number>>
  /** Pa that tees take from the flow of each element that ends at one; below zero where they suck it on */
  readonly teeLoss: Readonly<Record<string, number>>
  /** largest mass imbalance at a free node, kg/s */
  readonly residual: number
  readonly iterations: number
}

/**
 * Solves mass balance at every free node of `network` for its pressure.
 *
 * Newton on the node pressures with a line search. Where that stalls (a check on its seat says nothing of where it would open) the balance
 * is followed in time, each node a small volume, by implicit Euler with growing steps until it is at rest. Same network, same answer.
 *
 * @param start optional first pressures by node, Pa; else a linear network of the same elements gives them
 * @param cache the caller's own, where it solves many networks
 * @returns pressures in Pa, flows in kg/s; or the reason why there is no answer: an unknown node, a number out of range, gas with no
 *   way out, not converged to 1e-9 kg/s. It never returns a NaN.
 *
 * @example
 * import { solveNetwork } from '@/core/network/solve'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * const orifice = {
 *   gas,
 *   nodes: { a: { source: 0.002 }, b: { p: 101325 } },
 *   elements: [{ id: 'o', kind: 'orifice' as const, from: 'a', to: 'b', cd: 0.62, areaM2: 1e-4 }],
 * }
 * const solved = solveNetwork(orifice)
 * if (solved.ok) console.log(solved.value.pressure.a) // 101845.72234499583
 */
export function solveNetwork(
  network: Network,
  start?: Readonly<Record<string, number>>,
  cache?: SolverCache,
): Result<Solution> {
  const solver = makeSolver(network, { cache })
  if (!solver.ok) return solver
  const first = start && solver.value.ids.map((id) => start[id] ?? 101325)
  const balance = solver.value.solve(first)
  return balance.ok ? ok(solutionOf(network, solver.value, balance.value)) : balance
}

/**
 * A solver's answer under the names of joints and elements, with the pressures of spaces that valves shut off.
 *
 * @example
 * import { makeSolver } from '@/core/network/solver'
 * import { solutionOf } from '@/core/network/solve'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * const orifice = {
 *   gas,
 *   nodes: { a: { source: 0.002 }, b: { p: 101325 } },
 *   elements: [{ id: 'o', kind: 'orifice' as const, from: 'a', to: 'b', cd: 0.62, areaM2: 1e-4 }],
 * }
 * const solver = makeSolver(orifice)
 * const balance = solver.ok && solver.value.solve()
 * if (solver.ok && balance && balance.ok) console.log(solutionOf(orifice, solver.value, balance.value).pressure.a) // 101845.72234499583
 */
export function solutionOf(network: Network, solver: Solver, { p, residual, iterations }: MassBalance): Solution {
  const flow: Record<string, number> = {}
  const teeLoss: Record<string, number> = {}
  network.elements.forEach((e, k) => {
    flow[e.id] = solver.flow(k)
    const taken = solver.teeLoss(k)
    if (taken !== 0) teeLoss[e.id] = taken
  })
  const pressure: Record<string, number> = {}
  solver.ids.forEach((id, k) => {
    pressure[id] = p[k]!
  })
  settleTrapped(network, pressure, flow)
  return { pressure, flow, teeLoss, residual, iterations }
}

/** A leg that hardly runs loses what it loses at this coefficient. */
const MOST_TEE_K = 100

/**
 * A network whose hoses lose at its tees, on their own velocity, what they lose at a solution: for what is followed in time. What is sucked
 * on there is left out.
 *
 * @example
 * import { solveNetwork, withTeeLosses } from '@/core/network/solve'
 *
 * const gas = { R: 287.05, gamma: 1.4, T: 353.15 }
 * const orifice = {
 *   gas,
 *   nodes: { a: { source: 0.002 }, b: { p: 101325 } },
 *   elements: [{ id: 'o', kind: 'orifice' as const, from: 'a', to: 'b', cd: 0.62, areaM2: 1e-4 }],
 * }
 * const solved = solveNetwork(orifice)
 * if (solved.ok) console.log(withTeeLosses(orifice, solved.value).elements.length) // 1
 */
export function withTeeLosses(network: Network, { pressure, flow, teeLoss }: Solution): Network {
  const { R, T } = network.gas
  const elements = network.elements.map((e) => {
    const taken = teeLoss[e.id] ?? 0
    if (e.kind !== 'hose' || taken <= 0) return e
    const flux = flow[e.id]! / circleArea(e.boreM)
    const head = (flux * flux * R * T) / (pressure[e.from]! + pressure[e.to]!)
    const more = Math.min(MOST_TEE_K, taken / head)
    return { ...e, kFixed: e.kFixed + more, ...(e.kBack === undefined ? {} : { kBack: e.kBack + more }) }
  })
  return { ...network, elements, tees: [] }
}
