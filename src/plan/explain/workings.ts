/** The working of every kind of figure: its lines, the checks that a hand can make, its source. */
import type { Build } from '../document/schema'
import type { Evaluator } from '../model/evaluator'
import type { Worked } from '../model/results'
import { makeDraft, type HandCheck, type WorkingLine } from './draft'
import type { FigureKind, FigureQuantity, FigureRef, WorkingOf, WorkingText } from './figure'
import { dimensionOf, readFigure } from './figures'
import { checkByWorking, distanceWorking, fillNowWorking, multiplierWorking } from './figures/can'
import { caughtWorking, intakeOilWorking, keptWorking, oilWorking } from './figures/oil'
import { columnWorking, dropWorking, flowWorking, gaugeWorking, velocityWorking } from './figures/passage'
import {
  airWorking,
  blowByWorking,
  bypassWorking,
  capacityWorking,
  crankcaseWorking,
  exchangeWorking,
  inletDepressionWorking,
  manifoldWorking,
} from './figures/state'

export type Working = Omit<WorkingText, 'result'> & {
  /** the figure, and the symbol of the line that it is; what runs backwards is given by its size */
  readonly result: FigureQuantity
  readonly symbol: string
  readonly lines: readonly WorkingLine[]
  readonly checks: readonly HandCheck[]
}

const WORKINGS: { readonly [K in FigureKind]: WorkingOf<K> } = {
  crankcase: crankcaseWorking,
  blowBy: blowByWorking,
  capacity: capacityWorking,
  air: airWorking,
  inletDepression: inletDepressionWorking,
  manifold: manifoldWorking,
  flow: flowWorking,
  velocity: velocityWorking,
  drop: dropWorking,
  gauge: gaugeWorking,
  column: columnWorking,
  oil: oilWorking,
  caught: caughtWorking,
  kept: keptWorking,
  fillNow: fillNowWorking,
  distance: distanceWorking,
  checkBy: checkByWorking,
  multiplier: multiplierWorking,
  exchange: exchangeWorking,
  bypass: bypassWorking,
  intakeOil: intakeOilWorking,
}

/**
 * Working of a figure; undefined when the figure has no value. Workings are written when asked for: a figure alone costs nothing.
 *
 * @example
 * import { evaluate } from '@/plan/analyse'
 * import { workingOf } from '@/plan/explain/workings'
 * import { makeEvaluator } from '@/plan/model/evaluator'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const evaluator = makeEvaluator()
 * const working = workingOf(build, evaluate(build, '2026-11-24', evaluator), { kind: 'intakeOil' }, evaluator)
 * console.log(working.result.si) // 8.992471415605014e-12
 */
export function workingOf(build: Build, a: Worked, ref: FigureRef, evaluator: Evaluator): Working | undefined {
  const si = readFigure(build, a, ref, evaluator)
  if (si === undefined || !Number.isFinite(si)) return undefined
  const draft = makeDraft()
  const { result, ...text } = (WORKINGS[ref.kind] as WorkingOf)({ build, a, evaluator }, ref as never, draft)
  const { lines, checks } = draft
  return { ...text, result: { si, dimension: dimensionOf(ref) }, symbol: result, lines, checks }
}
