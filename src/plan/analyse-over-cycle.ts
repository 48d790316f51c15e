/** The analysis of any engine: of one whose pistons pump its crankcase, over the turn. Apart, since following turns is heavy. */
import type { Job } from '@/core/job'
import { analyse, withVerdicts, withLearnedRates, withFixes, type Analysis } from './analyse'
import { makeEvaluator, type Evaluator } from './model/evaluator'
import { figuresOf } from './model/figures'
import type { Build } from './document/schema'
import { capacityOf, type Capacity } from './model/capacity'
import { pulsates } from './model/engine'
import type { Figures } from './model/results'
import { cycleMeans } from './model/cycle-mean'

/** The figures as the engine has them. Yields the share done: about a second for a single or twin, at once for others. */
export function* figuresOverCycle(build: Build, evaluator: Evaluator = makeEvaluator()): Job<Figures> {
  return yield* cycleMeans(build, figuresOf(build, evaluator), evaluator)
}

/**
 * The same judged, each verdict with the fix that helps.
 *
 * @example
 * import { finish } from '@/core/job'
 * import { analyseOverCycle } from '@/plan/analyse-over-cycle'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(finish(analyseOverCycle(build, '2026-11-24')).states.length) // 6
 */
export function* analyseOverCycle(build: Build, today: string, evaluator: Evaluator = makeEvaluator()): Job<Analysis> {
  if (!pulsates(build.engine)) return analyse(build, today, evaluator)
  const figures = yield* figuresOverCycle(build, evaluator)
  const judged = withVerdicts(build, withLearnedRates(build, figures, today, evaluator), evaluator)
  return withFixes(build, today, judged, evaluator)
}

/** The whole analysis as it is given out to others: with what the circuit carries in each state. */
export type Report = Analysis & { readonly capacity: Capacity }

/**
 * What is handed over on paper: the analysis over the turn with the ranges of its figures, as of `today` (ISO date). Yields the share
 * done, 0-1.
 */
export function* reportOn(build: Build, today: string): Job<Report> {
  const evaluator = makeEvaluator()
  return { ...(yield* analyseOverCycle(build, today, evaluator)), capacity: capacityOf(build, evaluator) }
}
