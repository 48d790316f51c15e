/** What the circuit of a plan carries in each state: asked for where it is shown, since no verdict looks at it. */
import type { StateId } from '@/core/engine/states'
import { solverFor, type Solver } from '@/core/network/solver'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { LIMITS } from './limits'
import type { Evaluator } from './evaluator'
import { crankcaseNode } from './resolve'

/** kg/s that would leave with the crankcase at the highest pressure that seals bear for long; left out where there is no answer */
export type Capacity = Readonly<Partial<Record<StateId, number>>>

/** Capacity in every state of the active plan, on still flow. */
export function capacityOf(build: Build, { resolve, engineModel, networkOf, solverCache }: Evaluator): Capacity {
  const r = resolve(activeVariant(build))
  const node = crankcaseNode(r)
  const { states, amb } = engineModel(build)
  const capacity: Partial<Record<StateId, number>> = {}
  if (node === undefined) return capacity
  let solver: Solver | undefined
  for (const operating of states) {
    // blow-by does not enter a crankcase that is held: what leaves it is what the circuit carries
    const network = networkOf(r, operating, amb, 0)
    const made = solverFor(network, solver, { pin: node, cache: solverCache })
    if (!made.ok) continue
    solver = made.value
    const leaving = solver.leavingAt(amb.pressurePa + LIMITS.crankcaseHigh)
    if (leaving.ok) capacity[operating.id] = Math.max(0, leaving.value)
  }
  return capacity
}
