/** What is worked out of a build, before it is judged. SI throughout; screens and reports format it. */
import type { OperatingState, StateId } from '@/core/engine/states'
import type { CanResult, Oil } from '@/core/separation/carriage'
import type { Multiplier, Prior } from '@/core/service/prior'
import type { Range } from '@/core/service/fill'
import type { Part } from '../document/schema'
import type { EngineModel } from './engine'
import type { WaterAt } from './weather-water'

/** What passes one line or part. */
/** Flow in kg/s below which nothing is said to run: a valve or line that passes less is shut. */
export const NO_FLOW = 1e-7

export type Passage = {
  /** kg/s, positive from `from` to `to` (or `in` to `out`) */
  readonly flow: number
  /** gauge pressures at its ends, Pa */
  readonly gaugeFrom: number
  readonly gaugeTo: number
  /** mean gas velocity, m/s; hoses only */
  readonly velocity: number
  /** Pa that the tees at its ends take from the flow on its way; below zero where they suck it on */
  readonly teeLoss?: number | undefined
  /** oil carried, kg/s, without what cornering adds */
  readonly oil: Oil
  readonly water: number
}

/** Past what holds: a figure would be of an engine that is no longer shut. */
export const LET_GO =
  'Seals let go: the gas finds no way out, and before the crankcase stands at half an atmosphere a seal, the dipstick or a gasket does.'

export type StateResult = {
  readonly id: StateId
  readonly operating: OperatingState
  readonly blowBy: number
} & (
  | { readonly solved: false; readonly reason: string; readonly at: string | undefined }
  | {
      readonly solved: true
      readonly crankcaseGauge: number
      /** gauge pressure, Pa, at every joint, and the joint of every port `${part}.${port}` */
      readonly gauge: Readonly<Record<string, number>>
      readonly passages: Readonly<Record<string, Passage>>
      readonly cans: Readonly<Record<string, CanResult>>
      /** kg/s of gas into each boundary part (negative: out of it), and oil with it */
      readonly into: Readonly<Record<string, { readonly gas: number; readonly oil: Oil }>>
      readonly residual: number
      readonly iterations: number
      /** of an engine whose pistons pump its crankcase: all of this is the mean of a turn, and this its swing */
      readonly cycle?: CycleSwing
    }
)
export type CycleSwing = {
  /** crankcase, Pa gauge */
  readonly peak: number
  readonly least: number
  /** kg/s over the border to inlet tract and open air, by direction */
  readonly out: number
  readonly back: number
}
export type SolvedState = Extract<StateResult, { solved: true }>

/**
 * Whether the states are means over a turn of the crank.
 *
 * @example
 * import { figuresOf } from '@/plan/model/figures'
 * import { isCycleMean } from '@/plan/model/results'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(isCycleMean(figuresOf(build))) // false
 */
export const isCycleMean = (s: { readonly states: readonly StateResult[] }): boolean =>
  s.states.some((x) => x.solved && x.cycle !== undefined)

/** Volumes of oil and water, m3; as rates per metre driven on the build's duty, before the learned multipliers. */
export type DutyRates = {
  readonly oil: number
  readonly water: number
  /** of the oil, what is made on track */
  readonly track?: number | undefined
}

/** A filling against its forecast of the time: m3, and whether it fell in the band of four in five. */
export type ForecastCheck = {
  readonly id: string
  readonly date: string
  readonly found: number
  readonly band: Range
  readonly inside: boolean
}

/** What asks for the next look: the first drive of what is new, how often the builder looks, the forecast, or where it last ran over. */
export type LookReason = 'first look' | 'own interval' | 'forecast' | 'ran over'
/** What asks for a look: so many metres from an odometer in m. */
export type LookRequest = { readonly reason: LookReason; readonly from: number; readonly metres: number }

export type CanChange = { readonly odds: number; readonly since: string; readonly rise: boolean }

export type CanForecast = {
  readonly part: string
  readonly name: string
  readonly bowlM3: number
  readonly perMetre: DutyRates
  /** m3 per session of 20 minutes on track */
  readonly perSession: DutyRates
  readonly multiplier: Multiplier
  readonly waterMultiplier: Multiplier
  /** of the oil on track, where emptyings tell sessions: `multiplier` is then the road's */
  readonly trackMultiplier: Multiplier | undefined
  /** oil over the model's on the duty as it is, likely */
  readonly oilTimes: number
  /** what it is known by before its own log speaks: estimates, other cars of its kind, or another plan of this engine */
  readonly startsFrom: 'estimates' | 'kind' | 'other plan'
  /** the multipliers then, before all that its log tells */
  readonly before: Prior
  /** something has changed, by odds: whether it makes more, and the emptying that showed it first */
  readonly changed: CanChange | undefined
  /** emptyings that stray so far from the rest that they count for little, and in how many intervals one does so */
  readonly doubted: readonly { readonly id: string; readonly date: string; readonly oneIn: number }[]
  /** odometer in m when it was last empty; undefined before it is logged as fitted */
  readonly emptyAt: number | undefined
  /** what it held when it was last looked into and not emptied, m3, and the odometer then, m */
  readonly look: { readonly at: number; readonly held: number; readonly date: string } | undefined
  readonly odometerNow: number
  readonly now: Range
  /** sessions ticked since it was last empty */
  readonly sessionsSince: number
  /** metres from empty to full */
  readonly distance: Range
  readonly sessions: Range
  /** odometer in m by which to look, what says so, and the date at this yearly distance */
  readonly checkBy: number
  readonly checkReason: LookReason
  /** all that ever ask for a look, each so many metres from an odometer; the earliest counts */
  readonly looks: readonly LookRequest[]
  readonly checkDate: string | undefined
  /** false when the circuit does not solve, so nothing is known */
  readonly known: boolean
  readonly history: readonly {
    readonly id: string
    readonly date: string
    readonly found: DutyRates
    readonly predicted: DutyRates
    readonly metres: number
    /** gathered while something was broken that has been mended since: it taught nothing */
    readonly ofFault?: true
  }[]
}

/** A plan worked out in every state: what depends on the build alone, not on the day or its log. */
export type Figures = {
  readonly engine: EngineModel
  readonly states: readonly StateResult[]
  /** water caught by each can, by the weather, coldest first */
  readonly waterAt: readonly WaterAt[]
  /** oil to the intake, m3 per metre on the duty, times nothing learned */
  readonly intakeOil: number
  readonly metresPerHour: number
}

/** The same with what the log has taught and when each can will be full, as of a day. */
export type Worked = Figures & {
  readonly cans: readonly CanForecast[]
  /** factor on all oil that the log has taught, part of `intakeOil` here */
  readonly oilLearned: number
}

/** The gas alone in one state: what trying out a change gives. */
export type GasResult = {
  readonly operating: OperatingState
  readonly crankcaseGauge: number
  /** kg/s through each line and part */
  readonly flow: Readonly<Record<string, number>>
  /** kg/s into each boundary part */
  readonly into: Readonly<Record<string, { readonly gas: number }>>
}

/**
 * Whether a state has an answer, and not only the reason why it has none.
 *
 * @example
 * import { figuresOf } from '@/plan/model/figures'
 * import { isSolved } from '@/plan/model/results'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(figuresOf(build).states.every(isSolved)) // true
 */
export const isSolved = (s: StateResult): s is SolvedState => s.solved

/** Share of idle air that enters the manifold through the circuit instead of the throttle. */
export function bypassShare(s: Pick<GasResult, 'operating' | 'into'>, parts: readonly Part[]): number {
  const gas = parts.reduce((sum, p) => sum + (p.kind === 'manifold' ? Math.max(0, s.into[p.id]?.gas ?? 0) : 0), 0)
  return s.operating.airKgS > 0 ? gas / s.operating.airKgS : 0
}

/** The solved state `id`, when there is one. */
export const solvedIn = (f: Pick<Figures, 'states'>, id: StateId): SolvedState | undefined =>
  f.states.filter(isSolved).find((s) => s.id === id)

/** Mist and splash together, kg/s; 0 where none is carried. */
export const oilSum = (o: Oil | undefined): number => (o ? o.mist + o.splash : 0)
