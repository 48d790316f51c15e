/** Every kind of figure by name. */
import type { Build } from '../document/schema'
import type { Worked } from '../model/results'
import type { Figure, FigureKind, FigureRef, Working } from './figure'
import { distance, fillNow, multiplier } from './figures/can'
import { intakeOil, kept, oil } from './figures/oil'
import { drop, flow, velocity } from './figures/passage'
import { air, blowBy, bypass, capacity, crankcase, inletDepression, manifold } from './figures/state'

export type { FigureRef, Quantity } from './figure'

const FIGURES: { readonly [K in FigureKind]: Figure<K> } = {
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
/** The table's types follow the name; a single name loses that. */
const figureOf = (ref: FigureRef) => FIGURES[ref.kind] as Figure

export const dimensionOf = (ref: FigureRef): Figure['dimension'] => figureOf(ref).dimension

/** Whether the figure follows from a can's log, and so from the day. */
export const isOfCan = (ref: FigureRef): boolean =>
  ref.kind === 'fillNow' || ref.kind === 'distance' || ref.kind === 'multiplier'

/** The figure's value in SI; undefined when its state has no answer. */
export const readFigure = (build: Build, a: Worked, ref: FigureRef): number | undefined =>
  figureOf(ref).read(build, a, ref as never)

/** Working of a figure; undefined when the figure has no value. */
export function workingOf(build: Build, a: Worked, ref: FigureRef): Working | undefined {
  const figure = figureOf(ref)
  const si = figure.read(build, a, ref as never)
  if (si === undefined || !Number.isFinite(si)) return undefined
  return { result: { si, dimension: figure.dimension }, ...figure.working(build, a, ref as never) }
}
