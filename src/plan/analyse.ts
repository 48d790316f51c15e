/** The one door from screens, API and command line to the numbers. */
import type { Build } from './document/schema'
import { makeEvaluator, type Evaluator } from './model/evaluator'
import { figuresOf } from './model/figures'
import type { Figures, Worked } from './model/results'
import { forecasts, learnedOil } from './service/forecast'
import { judge, judgeWithFixes } from './verdicts/judge'
import type { Verdict } from './verdicts/verdict'

/** A build worked out and judged, as of a day. */
export type Analysis = Worked & { readonly verdicts: readonly Verdict[] }

/**
 * Analyses the active plan of a valid build: every state solved, oil and water carried, cans forecast, verdicts given, each with the fix
 * that was tried out and helps. Pure: the same build and day give the same answer.
 * @param today ISO date (2026-11-24) that "now" is; forecasts run from the log's last entry to it
 * @param evaluator the caller's own, where it works out more than one build: nothing else is kept from one call to the next
 *
 * @example
 * import { analyse } from '@/plan/analyse'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const { states, verdicts } = analyse(build, '2026-11-24')
 * console.log([states.length, verdicts[0].rule]) // [ 6, 'can-sees-boost' ]
 */
export function analyse(build: Build, today: string, evaluator: Evaluator = makeEvaluator()): Analysis {
  return withFixes(build, today, analyseWithoutFixes(build, today, evaluator), evaluator)
}

/**
 * The analysis without its fixes: all that a picture needs while something is dragged. A third of a millisecond a state.
 *
 * @example
 * import { analyseWithoutFixes } from '@/plan/analyse'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(analyseWithoutFixes(build, '2026-11-24').cans[0].bowlM3) // 0.00035
 */
export const analyseWithoutFixes = (build: Build, today: string, evaluator: Evaluator = makeEvaluator()): Analysis =>
  withVerdicts(build, evaluate(build, today, evaluator), evaluator)

/** What was worked out, judged, without fixes. */
export function withVerdicts(build: Build, worked: Worked, evaluator: Evaluator = makeEvaluator()): Analysis {
  const { engine, states, waterAt, intakeOil: oil, metresPerHour: metres, cans, oilLearned } = worked
  const verdicts = judge(build, worked, evaluator)
  return { engine, states, waterAt, intakeOil: oil, metresPerHour: metres, cans, oilLearned, verdicts }
}

/** The analysis with every fix that was looked for, tried out and helps: some milliseconds more. */
export const withFixes = (
  build: Build,
  today: string,
  analysis: Analysis,
  evaluator: Evaluator = makeEvaluator(),
): Analysis => ({
  ...analysis,
  verdicts: judgeWithFixes(build, today, analysis, evaluator),
})

/**
 * The figures with what the log has taught and when each can will be full: the analysis without its judgement.
 *
 * @example
 * import { evaluate } from '@/plan/analyse'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(evaluate(build, '2026-11-24').intakeOil) // 8.992471415605014e-12
 */
export const evaluate = (build: Build, today: string, evaluator: Evaluator = makeEvaluator()): Worked =>
  withLearnedRates(build, figuresOf(build, evaluator), today, evaluator)

/** Figures with what the log has taught. */
export function withLearnedRates(build: Build, figures: Figures, today: string, evaluator: Evaluator): Worked {
  const cans = forecasts(build, figures, today, evaluator)
  const oilLearned = learnedOil(cans)
  const { engine, states, waterAt, intakeOil: unlearned, metresPerHour: metres } = figures
  const intakeOil = unlearned * oilLearned
  // written out: it is made at every step of what is dragged
  return { engine, states, waterAt, metresPerHour: metres, cans, oilLearned, intakeOil }
}
