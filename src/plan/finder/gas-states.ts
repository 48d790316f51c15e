/** The gas alone in every state of a plan and of plans near it: hundreds of trials share one solver a state and start from the last answer. */
import type { StateId } from '@/core/engine/states'
import { solverFor, type Solver } from '@/core/network/solver'
import { STUDY_TOLERANCE } from '@/core/network/newton'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import type { Evaluator } from '../model/evaluator'
import { LIMITS } from '../model/limits'
import { crankcaseNode, nodeOfPart } from '../model/resolve'

/** What one state shows; where gas finds no way out, the crankcase stands where seals let go. */
export type GasState = {
  readonly id: StateId
  /** Pa gauge */
  readonly crankcase: number
  /** kg/s */
  readonly blowBy: number
  /** air that comes in from the open by the circuit and reaches the manifold unmetered, share of the engine's */
  readonly unmetered: number
}

/** Works plans out one after another. @returns undefined where a plan has no crankcase */
export function gasSolver(evaluator: Evaluator): (build: Build) => readonly GasState[] | undefined {
  const solvers: (Solver | undefined)[] = []
  return (build) => {
    const variant = activeVariant(build)
    const engine = evaluator.engineModel(build)
    const r = evaluator.resolve(variant)
    const crankcase = crankcaseNode(r)
    if (crankcase === undefined) return undefined
    const nodesOf = (kind: 'atmosphere' | 'manifold') =>
      new Set(variant.parts.flatMap((p) => (p.kind === kind ? (nodeOfPart(r, p) ?? []) : [])))
    const [open, manifolds] = [nodesOf('atmosphere'), nodesOf('manifold')]
    return engine.states.map((state, k): GasState => {
      const blowBy = evaluator.blowByIn(engine, state)
      const letGo = { id: state.id, crankcase: LIMITS.sealsLetGo, blowBy, unmetered: 0 }
      const network = evaluator.networkOf(r, state, engine.amb, blowBy)
      const made = solverFor(network, solvers[k], { aim: STUDY_TOLERANCE, cache: evaluator.solverCache })
      if (!made.ok) return letGo
      const kept = made.value === solvers[k]
      const solver = (solvers[k] = made.value)
      const balance = solver.solve(kept ? solver.pressures().slice() : undefined)
      if (!balance.ok) {
        solvers[k] = undefined
        return letGo
      }
      const gauge = balance.value.p[solver.index.get(crankcase)!]! - engine.amb.pressurePa
      let [from, into] = [0, 0]
      network.elements.forEach((e, n) => {
        const flow = solver.flow(n)
        if (open.has(e.from)) from += Math.max(0, flow)
        if (open.has(e.to)) from += Math.max(0, -flow)
        if (manifolds.has(e.to)) into += flow
        if (manifolds.has(e.from)) into -= flow
      })
      return {
        id: state.id,
        crankcase: Math.min(LIMITS.sealsLetGo, gauge),
        blowBy,
        unmetered: state.airKgS > 0 ? Math.max(0, Math.min(from, into)) / state.airKgS : 0,
      }
    })
  }
}
