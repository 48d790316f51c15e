/** Steady pressures and flows of a network. */
import { fail, ok, type Result } from '../result'
import type { Network } from './elements'
import { flowLaw } from './flow'
import { SHUT_LEAK, type Flow, type Tie } from './law'
import { newton, settle } from './newton'
import { MAX_PRESSURE, problemIn, unreached } from './problem'
import { firstGuess, makeSystem, type Branch } from './system'
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
/** No crankcase or can stands at this (Pa): an answer that has not settled and is above it has no way out. */
const PILED_UP = 1e6
/** Leaks of shut valves on the way to a hard answer, kg/(s Pa). */
const LEAKS = [1e-7, 3e-9, 1e-10, 3e-12, 1e-13, SHUT_LEAK]

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
  const branches: Branch[] = network.elements.map((e) => ({
    law: flowLaw(e, network.gas, tie),
    i: index.get(e.from)!,
    j: index.get(e.to)!,
  }))

  const walled = unreached(order, branches, source)
  if (walled) return walled

  const system = makeSystem(branches, source, n)
  if (start)
    free.forEach((id, k) => {
      p[k] = start[id] ?? 101325
    })
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
    for (const leak of LEAKS) {
      tie.leak = leak
      done = attempt(24)
    }
  }
  for (let round = 0; round < 2; round++) {
    if (done) break
    spent += settle(system, p, n)
    done = attempt(60)
  }
  const residual = system.residual(p)
  // gas that is pushed into a closed space piles up until even the leak of shut valves carries it: far above what any circuit holds
  const most = residual <= MASS_TOLERANCE ? MAX_PRESSURE : PILED_UP
  for (let k = 0; k < n; k++)
    if (!(p[k]! < most) || !(p[k]! > 0))
      return fail(
        `Gas has no way out of ${free[k]}: its pressure grows without end. A valve or plug shuts every path.`,
        free[k],
      )
  if (!(residual <= MASS_TOLERANCE))
    return fail(
      `Not converged: the flows at a joint still differ by ${residual.toExponential(1)} kg/s after ${spent} steps. Nothing is shown rather than a wrong number.`,
    )

  const flow: Record<string, number> = {}
  const f: Flow = { m: 0, d1: 0, d2: 0 }
  network.elements.forEach((e, k) => {
    const b = branches[k]!
    b.law(p[b.i]!, p[b.j]!, f)
    flow[e.id] = f.m
  })
  const pressure: Record<string, number> = {}
  order.forEach((id, k) => {
    pressure[id] = p[k]!
  })
  settleTrapped(network, pressure, flow)
  return ok({ pressure, flow, residual, iterations: spent })
}
