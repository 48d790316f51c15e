/** A plan worked out: every state solved, oil and water carried. What depends on the build alone: no day, no log, no judgement. */
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { intakeOil, metresPerHour } from './duty'
import { makeEvaluator, type Evaluator } from './evaluator'
import type { Figures } from './results'
import { solveStates } from './states'

/**
 * The active plan in every state, on still flow. Pure: the same build gives the same figures.
 * @param evaluator the caller's own, where it works out more than one build
 *
 * @example
 * import { figuresOf } from '@/plan/model/figures'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const idle = figuresOf(build).states.find((s) => s.id === 'idle')
 * console.log(idle.solved && idle.crankcaseGauge) // -32.549234060468734
 */
export function figuresOf(build: Build, evaluator: Evaluator = makeEvaluator()): Figures {
  const { states, waterAt } = solveStates(build, evaluator)
  return {
    engine: evaluator.engineModel(build),
    states,
    waterAt,
    intakeOil: intakeOil(build, activeVariant(build), states),
    metresPerHour: metresPerHour(build),
  }
}
