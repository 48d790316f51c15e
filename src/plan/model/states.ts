/** The states of a plan, solved: pressures, flows, oil and water. */
import type { OperatingState, StateId } from '@/core/engine/states'
import { solutionOf } from '@/core/network/solve'
import { solverFor, type Solver } from '@/core/network/solver'
import { activeVariant } from '../edit/edit'
import type { Build, Variant } from '../document/schema'
import { LIMITS } from './limits'
import { carriageIn, sourcesOf, type SolvedRun } from './carriage'
import type { Evaluator } from './evaluator'
import { crankcaseNode } from './resolve'
import { LET_GO, type StateResult } from './results'
import { stateResultOf } from './state-result'
import { byWeather, waterInWeather, weatherOf, type StateWater, type WaterAt } from './weather-water'

export type SolvedStates = {
  readonly states: readonly StateResult[]
  readonly waterAt: readonly WaterAt[]
}

/** Every state of the active plan, one after another on one solver, since only gas, borders and blow-by differ between them. */
export function solveStates(build: Build, evaluator: Evaluator): SolvedStates {
  const variant = activeVariant(build)
  const engine = evaluator.engineModel(build)
  const r = evaluator.resolve(variant)
  const crankcase = crankcaseNode(r)
  const plan = { build, variant, sources: evaluator.once(sourcesOf, r), carry: evaluator.carry }
  const ambientPa = engine.amb.pressurePa
  const weather = weatherOf(build)
  const wet: { readonly id: StateId; readonly water: StateWater }[] = []
  let solver: Solver | undefined

  function solved(operating: OperatingState): StateResult {
    const blowBy = evaluator.blowByIn(engine, operating)
    const unsolved = (reason: string, at: string | undefined): StateResult => {
      return { id: operating.id, operating, blowBy, solved: false, reason, at }
    }
    if (crankcase === undefined || !Number.isFinite(blowBy))
      return unsolved('There is no crankcase with a blow-by to solve for.', undefined)
    const network = evaluator.networkOf(r, operating, engine.amb, blowBy)
    const made = solverFor(network, solver, { cache: evaluator.solverCache })
    if (!made.ok) return unsolved(named(made.reason, variant), made.at)
    solver = made.value
    const balance = solver.solve()
    if (!balance.ok) return unsolved(named(balance.reason, variant), balance.at)
    const solution = solutionOf(network, solver, balance.value)
    if (solution.pressure[crankcase]! - ambientPa > LIMITS.sealsLetGo) return unsolved(LET_GO, 'crankcase')
    const running: SolvedRun = { operating, network, solution, blowBy, ambientPa }
    const load = carriageIn(plan, running)
    const result = stateResultOf(r, running, load, crankcase)
    wet.push({ id: operating.id, water: waterInWeather(plan, running, load, weather) })
    return result
  }

  const states = engine.states.map(solved)
  return { states, waterAt: byWeather(weather, wet) }
}

/** The core speaks of ids; a person knows names. */
function named(reason: string, variant: Variant): string {
  let text = reason
  for (const p of [...variant.parts, ...variant.lines].toSorted((a, b) => b.id.length - a.id.length))
    text = text.replace(new RegExp(`(^|\\s)${p.id.replaceAll(/[^\w-]/g, '')}(?=[\\s.:,])`), `$1${p.name}`)
  return text
}
