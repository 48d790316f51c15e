/** A circuit at one moment of a drive: solved at a speed and a manifold pressure that no state of the plan has. */
import type { StateId } from '@/core/engine/states'
import { fromSi } from '@/core/units/units'
import type { Build } from '../document/schema'
import { setField } from '../edit/edit-builders'
import { applyEdits } from '../edit/edit'
import type { Evaluator } from './evaluator'
import { solveStates } from './states'
import type { StateResult } from './results'

/** rpm; Pa absolute */
export type Moment = { readonly state: StateId; readonly rpm: number; readonly manifoldPa: number }

/**
 * The active plan at a moment, on still flow; undefined where it has no such state or the figures are none that an engine has.
 * @param moment a state, for its temperatures, with the speed and manifold pressure in place of its own
 */
export function solveMoment(
  build: Build,
  { state, rpm, manifoldPa }: Moment,
  evaluator: Evaluator,
): StateResult | undefined {
  if (!Number.isFinite(rpm) || !Number.isFinite(manifoldPa)) return undefined
  const own = build.engine.overrides[state]
  const point = { ...own, rpm: Math.round(rpm), manifoldKpa: fromSi('pressure', manifoldPa, 'kPa') }
  const moved = applyEdits(build, setField(['engine', 'overrides', state], point)(build))
  return moved.ok ? solveStates(moved.value, evaluator).states.find((s) => s.id === state) : undefined
}
