/** The working of every kind of figure: relation, inputs and source. */
import type { Build } from '../document/schema'
import type { Evaluator } from '../model/evaluator'
import type { Worked } from '../model/results'
import type { FigureKind, FigureRef, Working, WorkingOf } from './figure'
import { dimensionOf, readFigure } from './figures'
import { distanceWorking, fillNowWorking, multiplierWorking } from './figures/can'
import { intakeOilWorking, keptWorking, oilWorking } from './figures/oil'
import { dropWorking, flowWorking, velocityWorking } from './figures/passage'
import {
  airWorking,
  blowByWorking,
  bypassWorking,
  capacityWorking,
  crankcaseWorking,
  inletDepressionWorking,
  manifoldWorking,
} from './figures/state'

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
  oil: oilWorking,
  kept: keptWorking,
  fillNow: fillNowWorking,
  distance: distanceWorking,
  multiplier: multiplierWorking,
  bypass: bypassWorking,
  intakeOil: intakeOilWorking,
}

/** Working of a figure; undefined when the figure has no value. */
export function workingOf(build: Build, a: Worked, ref: FigureRef, evaluator: Evaluator): Working | undefined {
  const si = readFigure(build, a, ref, evaluator)
  if (si === undefined || !Number.isFinite(si)) return undefined
  const working = WORKINGS[ref.kind] as WorkingOf
  return { result: { si, dimension: dimensionOf(ref) }, ...working(build, a, ref as never) }
}
