/** The one door from screens, API and command line to the numbers. */
import type { StateId } from '@/core/engine/states'
import type { Analysis } from './model/results'
import type { Build, Variant } from './document/schema'
import { activeVariant, applyEdits } from './edit/edit'
import { engineModel } from './model/engine'
import { canForecasts, carriedOver, intakeOil, loggedElsewhere, metresPerHour } from './service/forecast'
import { topologyOf } from './model/network'
import { solveGas, solveState, stateCapacity, type Warmth } from './model/states'
import { RULES } from './verdicts/rules'
import { isSolved, SEVERITIES, type Case } from './verdicts/verdict'

const COLD: Warmth = { gasLess: 40, bonnetLess: 15 }

/**
 * Analyses the active variant of a valid build: every state solved, oil and water carried, cans forecast, verdicts given.
 * Pure: the same build and day give the same answer. About a millisecond a state.
 * @param today ISO date (2026-11-24) that "now" is; forecasts run from the log's last entry to it
 */
export function analyse(build: Build, today: string): Analysis {
  const analysis = figuresOf(build, today)
  return { ...analysis, verdicts: verdictsOf(build, activeVariant(build), analysis) }
}

/** The analysis without its judgement: what is worked out again and again to find what a figure is sensitive to. */
export function figuresOf(build: Build, today: string): Omit<Analysis, 'verdicts'> {
  const variant = activeVariant(build)
  const engine = engineModel(build)
  const topology = topologyOf(variant)
  const cold = build.duty.hours.shortCold > 0 ? COLD : undefined
  const runs = engine.states.map((s) => solveState(build, variant, topology, engine, s, cold))
  const states = runs.map((r) => r.result)
  const coldWater = Object.fromEntries(runs.map((r) => [r.result.id, r.coldWater])) as Record<
    StateId,
    Record<string, number>
  >
  const other = loggedElsewhere(build, variant)
  return {
    engine,
    states,
    capacity: Object.fromEntries(engine.states.map((s) => [s.id, stateCapacity(variant, topology, engine, s)])),
    intakeOil: intakeOil(build, variant, states),
    metresPerHour: metresPerHour(build),
    cans: canForecasts(
      build,
      variant,
      states,
      coldWater,
      today,
      other === undefined ? undefined : carriedOver(figuresOf({ ...build, active: other }, today).cans),
    ),
  }
}

function verdictsOf(build: Build, variant: Variant, analysis: Omit<Analysis, 'verdicts'>): Analysis['verdicts'] {
  const { engine } = analysis
  const solved = analysis.states.filter(isSolved)
  const c: Case = {
    build,
    variant,
    analysis,
    solved,
    state: (id) => solved.find((s) => s.id === id),
    part: (id) => variant.parts.find((p) => p.id === id),
    tryOut: (edits, id) => {
      const then = applyEdits(build, edits)
      const operating = engine.states.find((s) => s.id === id)
      return then.ok && operating ? solveGas(activeVariant(then.value), engine, operating) : undefined
    },
  }
  return RULES.flatMap((rule) => rule.judge(c).map((v) => ({ rule: rule.id, ...v }))).toSorted(
    (a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity),
  )
}
