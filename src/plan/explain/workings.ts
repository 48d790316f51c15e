/** The working of every kind of figure: relation, inputs and source. */
import type { Build } from '../document/schema'
import type { Evaluator } from '../model/evaluator'
import type { Worked } from '../model/results'
import type { FigureKind, FigureRef, Working, WorkingOf } from './figure'
import { dimensionOf, readFigure } from './figures'
import { distance, fillNow, multiplier } from './figures/can'
import { intakeOil, kept, oil } from './figures/oil'
import { drop, flow, velocity } from './figures/passage'
import { air, blowBy, bypass, capacity, crankcase, inletDepression, manifold } from './figures/state'

const WORKINGS: { readonly [K in FigureKind]: WorkingOf<K> } = {
  crankcase,
  blowBy,
  capacity,
  air,
  inletDepression,
  manifold,
  flow,
  velocity,
  drop,
  oil,
  kept,
  fillNow,
  distance,
  multiplier,
  bypass,
  intakeOil,
}

/** Working of a figure; undefined when the figure has no value. */
export function workingOf(build: Build, a: Worked, ref: FigureRef, evaluator: Evaluator): Working | undefined {
  const si = readFigure(build, a, ref, evaluator)
  if (si === undefined || !Number.isFinite(si)) return undefined
  const working = WORKINGS[ref.kind] as WorkingOf
  return { result: { si, dimension: dimensionOf(ref) }, ...working(build, a, ref as never) }
}
