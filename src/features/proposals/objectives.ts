'use client'
/** What proposals are weighed by, as the builder reads it, in the build's units. */
import { formatNumber, formatQuantity } from '@/core/units/format'
import { fromSi, shownUnit, unitLabel, type Dimension, type UnitChoice } from '@/core/units/units'
import type { Objective } from '@/plan/proposals/tried-plan'

const NAMES: Readonly<Record<Objective, string>> = {
  oil: 'oil to the intake',
  pressure: 'crankcase, bad end',
  looks: 'looks a year',
  hours: 'hours of work',
  price: 'parts',
}
/** What an offer that is ahead in it is called. */
export const BEST_IN_NAMES: Readonly<Record<Objective, string>> = {
  oil: 'least oil',
  pressure: 'lowest crankcase',
  looks: 'fewest looks',
  hours: 'least work',
  price: 'cheapest',
}
const DIMENSION: Readonly<Partial<Record<Objective, Dimension>>> = { oil: 'perDistance', pressure: 'pressure' }

/** Name of an objective, with its unit. */
export function objectiveName(o: Objective, units: UnitChoice): string {
  const dimension = DIMENSION[o]
  return dimension ? `${NAMES[o]}, ${unitLabel(shownUnit(dimension, units))}` : NAMES[o]
}
/** A figure of an objective in the build's units. */
export function objectiveFigure(o: Objective, value: number, units: UnitChoice): number {
  const dimension = DIMENSION[o]
  return dimension ? fromSi(dimension, value, shownUnit(dimension, units)) : value
}
/** Oil as text and unit. */
export const oilText = (oil: number, units: UnitChoice) => formatQuantity(oil, 'perDistance', units, 2)

/** A difference with its sign; what is less than `least` is none. */
export const signedNumber = (x: number, least = 0.05): string =>
  Math.abs(x) < least ? '0' : `${x > 0 ? '+' : '−'}${formatNumber(Math.abs(x), 2)}`
