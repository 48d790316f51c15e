/** Parts of the measure of a plan: their names, what it is made of, and how near two plans are as good as each other. */
import type { StateId } from '@/core/engine/states'
import type { drainWord } from '../bay/drains'
import type { Means } from '../catalogue/effort'
import type { PlanEffort } from './effort'

/** What a plan is weighed by. */
export const MEASURE_PARTS = [
  'oil',
  'crankcase',
  'law',
  'looks',
  'work',
  'means',
  'price',
  'failure',
  'findings',
] as const
export type MeasurePart = (typeof MEASURE_PARTS)[number]
/** The same in a builder's words. */
export const PART_NAMES: Readonly<Record<MeasurePart, string>> = {
  oil: 'oil to the intake',
  crankcase: 'crankcase pressure',
  law: 'law',
  looks: 'looking after it',
  work: 'hours',
  means: 'what it takes',
  price: 'price',
  failure: 'what fails worst',
  findings: 'what is open',
}

export type PlanMeasure = {
  /** points by part, 0 or more, less is better; and all of them */
  readonly points: Readonly<Record<MeasurePart, number>>
  readonly total: number
  /** what they are made of */
  readonly facts: {
    /** m3 per metre that reaches the intake; share of it that nothing washes off */
    readonly intakeOil: number
    readonly unwashed: number
    /** crankcase at the bad end of its band, Pa gauge; undefined where there is no answer; and the state that stands highest */
    readonly highest: number | undefined
    readonly lowest: number | undefined
    readonly worstState: StateId | undefined
    /** share of the gas that goes into the open, on a car that sees public roads */
    readonly vented: number
    /** looks a year that the fullest can asks for; 0 with nothing to empty; and metres between them */
    readonly looks: number
    readonly interval: number
    readonly drain: DrainWord | undefined
    readonly effort: PlanEffort
    /** means that the builder has not said he has; and those that he will not use */
    readonly missing: readonly Means[]
    readonly refused: readonly Means[]
    /** what fails worst, and the crankcase (undefined: no answer) and the oil to the intake then */
    readonly worstFailure: WorstFailure | undefined
    readonly stops: number
    readonly fixes: number
  }
}
export type WorstFailure = {
  readonly name: string
  readonly highest: number | undefined
  readonly intakeOil: number
}
export type DrainWord = NonNullable<ReturnType<typeof drainWord>>

/** Plans closer than this are as good as each other: facts known to some hundredths decide no more, points. */
export const MARGIN = 4
