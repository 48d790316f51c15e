/** A plan worked out: every state solved, oil and water carried. What depends on the build alone: no day, no log, no judgement. */
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { intakeOil, metresPerHour } from './duty'
import { engineModel } from './engine'
import type { Figures } from './results'
import { solveStates } from './states'

/** The active plan in every state, on still flow. Pure: the same build gives the same figures. */
export function figuresOf(build: Build): Figures {
  const variant = activeVariant(build)
  const engine = engineModel(build)
  const { states, coldWater } = solveStates(build, variant, engine)
  return {
    engine,
    states,
    coldWater,
    intakeOil: intakeOil(build, variant, states),
    metresPerHour: metresPerHour(build),
  }
}
