/**
 * The one measure of a plan: what it costs its builder, in points, part by part, so that ranking, worth, Compare and proposals weigh alike.
 * A point is about what an hour at the bench is worth (a judgement, no source). Every part moves smoothly with the facts, so that a small
 * change of them makes a small change of it; two plans within `MARGIN` are as good as each other.
 */
import type { StateId } from '@/core/engine/states'
import { roadHours } from '@/core/service/rates'
import { airDensity, STANDARD_PRESSURE } from '@/core/gas/air'
import { finish, scaled, type Job } from '@/core/job'
import { mistConcentration, splashConcentration } from '@/core/separation/source'
import { withLearnedRates, type Analysis } from '../analyse'
import { withSpots } from '../bay/loose-parts'
import { spotsFor } from '../bay/best-spots'
import { drainWord } from '../bay/drains'
import { setBay } from '../bay/bay-builders'
import { spotIn } from '../catalogue/bay-geometry'
import { bayFor, readyBay } from '../catalogue/bays'
import type { Build } from '../document/schema'
import { perform } from '../edit/edit-builders'
import { activeVariant, applyEdits } from '../edit/edit'
import { faultsOf } from '../faults/faults'
import type { Evaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { isIntake } from '../document/kinds'
import { pulsates } from '../model/engine'
import { pickUpOf } from '../model/carriage'
import { intakeOil } from '../model/duty'
import { isSolved, type Figures, type SolvedState, type StateResult } from '../model/results'
import { LIMITS } from '../model/limits'
import type { RuleId } from '../verdicts/pages'
import { bandOf } from './bad-end'
import { effortOf } from './effort'
import { MEASURE_PARTS, type DrainWord, type PlanMeasure, type WorstFailure } from './measure-parts'

/** How much oil in the intake matters: fuel washes the valves of a port-injected engine. */
export const unwashedShare = ({ injection, induction }: Build['engine']): number =>
  injection === 'direct' ? 1 : injection === 'dual' || induction !== 'na' ? 0.6 : 0.1

/** Points for 3 ml of unwashed oil in 1 000 km; more of it weighs a little less than in proportion. */
const [OIL_POINTS, OIL_POWER, OIL_UNIT] = [10, 0.75, 3e-12]
/** Points for a doubling: of pressure from 1 kPa on, of vacuum past what seals like, of looks a year. */
const DOUBLING = { high: 8, low: 8, looks: 1.5, tooRare: 2 } as const
const doublings = (ratio: number) => Math.log2(1 + Math.max(0, ratio))
/** Points of a plan that breathes all its gas into the open on public roads; share of it that counts as much as the most. */
const UNLAWFUL = 500
const TRACE_VENTED = 0.02
const SEAT_LEAK = 1e-3
/** Points for money, for a means that must be borrowed, for one that will not be used, for what is open. */
const [AN_HOUR, A_HUNDRED, BORROWED, REFUSED, A_STOP, A_FIX] = [0.7, 1, 1, 500, 6, 2]
/** Share of what the worst failure would cost that counts: it is seldom. */
const SELDOM = 0.15
/** A separator that drains in some states only is looked at about as often as a can that lasts so long, m. */
const DRAINS_AT_TIMES_M = 5e6

/** Rules whose matter is a part of the measure of its own. */
const MEASURED: ReadonlySet<RuleId> = new Set<RuleId>([
  'crankcase-pressure',
  'not-solved',
  'vented-street',
  'relief-open',
  'breather-unprotected',
  'fill',
  'freezing',
  'velocity',
  'reading',
  'drain-back',
  'oil-water',
])

const oilPoints = (unwashedOil: number) => OIL_POINTS * (Math.max(0, unwashedOil) / OIL_UNIT) ** OIL_POWER
/** Where there is no answer the gas finds no way out: as at the pressure at which seals let go. */
const highPoints = (gauge: number | undefined) => DOUBLING.high * doublings((gauge ?? LIMITS.sealsLetGo) / 1000)
const lowPoints = (gauge: number | undefined) =>
  gauge === undefined ? 0 : DOUBLING.low * doublings((LIMITS.crankcaseLow - gauge) / 3000)

const highestOf = (states: readonly StateResult[]): number | undefined =>
  states.every((s) => s.solved)
    ? states.filter(isSolved).reduce((most, s) => Math.max(most, s.crankcaseGauge), -Infinity)
    : undefined

/**
 * Oil to the intake where a state has no answer: there seals let go, and all the oil that its blow-by holds counts. m3 per metre, as of the
 * model.
 */
function oilWithLost(build: Build, { states, intakeOil: known }: Pick<Figures, 'states' | 'intakeOil'>): number {
  const solved = states.filter(isSolved)
  const [any] = solved
  if (solved.length === states.length || !any) return known
  const variant = activeVariant(build)
  const sink = variant.parts.find((p) => isIntake(p.kind))?.id ?? ''
  const pickUp = pickUpOf(build, variant)
  const lost = (s: StateResult): SolvedState => {
    const m3s = s.blowBy / airDensity(STANDARD_PRESSURE, s.operating.gasK)
    const oil = {
      mist: mistConcentration(s.operating.load) * m3s,
      splash: splashConcentration(pickUp, s.operating.rpm) * m3s,
    }
    return { ...any, id: s.id, operating: s.operating, blowBy: s.blowBy, into: { [sink]: { gas: s.blowBy, oil } } }
  }
  return intakeOil(
    build,
    variant,
    states.map((s) => (s.solved ? s : lost(s))),
  )
}

/** Share of blow-by that leaves into the open, over all states. */
export function shareVented(build: Build, { states }: Pick<Figures, 'states'>): number {
  const open = activeVariant(build).parts.filter((p) => p.kind === 'atmosphere')
  const shares = states.filter(isSolved).map((s) => {
    const out = open.reduce((sum, p) => sum + Math.max(0, s.into[p.id]?.gas ?? 0), 0)
    return s.blowBy > 0 ? Math.min(1, out / s.blowBy) : 0
  })
  const mean = shares.length > 0 ? shares.reduce((a, b) => a + b, 0) / shares.length : 0
  // what a cap lets by at its seat is no vent
  return Math.max(0, mean - SEAT_LEAK)
}
/** The same as the law has it: on a car that sees public roads. */
const ventedShare = (build: Build, figures: Pick<Figures, 'states'>): number =>
  roadHours(build.duty.hours) === 0 ? 0 : shareVented(build, figures)

/** Whether a relief cap opens at the bad end of the crankcase's band: on the road it is then a vent in some cars. */
export function opensOnTheRoad(build: Build, high: number | undefined): boolean {
  if (roadHours(build.duty.hours) === 0) return false
  return activeVariant(build).parts.some(
    (p) => p.kind === 'relief' && !p.stuck && (high === undefined || high > p.openKpa * 1000),
  )
}
/** Share of all gas that goes into the open where a cap opens in one car of ten, in one state of some (estimate). */
export const RELIEF_VENT_SHARE = 0.05

/** The build in its bay: as measured, the rest as a ready bay of its layout has it. */
const bayed = (build: Build): Build => {
  const there = perform(build, setBay(readyBay(build, activeVariant(build), bayFor(build.engine))))
  return there.ok ? there.value : build
}
const WORST_FIRST: readonly DrainWord[] = ['never drains', 'drains at times', 'drains']

/** A drain is no promise: it is judged where it would run, from the best place that the bay has for its can where none was measured. */
function drainIn(build: Build, states: readonly StateResult[]): DrainWord | undefined {
  let inBay = bayed(build)
  for (const can of activeVariant(inBay).parts) {
    if (can.kind !== 'can' || !can.drain || spotIn(inBay.bay, can.id)?.measured) continue
    const best = finish(spotsFor(inBay, states, can.id, { most: 1, drained: true }))
    if (best.ok) inBay = withSpots(inBay, new Map([[can.id, best.value[0]!.floor]]))
  }
  const variant = activeVariant(inBay)
  const words = variant.parts.flatMap((p) =>
    p.kind === 'can' && p.drain ? [drainWord(inBay, variant, states, p.id)] : [],
  )
  return WORST_FIRST.find((w) => words.includes(w))
}

/** What the worst single failure adds in oil and pressure, points, and its name; on still flow, since there are dozens. */
function* worstFailure(
  build: Build,
  evaluator: Evaluator,
): Job<{ readonly failure: WorstFailure | undefined; readonly points: number }> {
  const unwashed = unwashedShare(build.engine)
  const before = figuresOf(build, evaluator)
  // where seals let go the pressure tells of it: the oil then is on the road, not in the intake
  const oilOf = (f: Figures) => (f.states.every((s) => s.solved) ? f.intakeOil : before.intakeOil)
  const pointsOf = (f: Figures) => oilPoints(oilOf(f) * unwashed) + highPoints(highestOf(f.states))
  const sound = pointsOf(before)
  const faults = faultsOf(build).filter((f) => f.id !== 'rings-worn')
  let worst: { failure: WorstFailure | undefined; points: number } = { failure: undefined, points: 0 }
  for (const [i, fault] of faults.entries()) {
    const broken = applyEdits(build, fault.edits)
    if (broken.ok) {
      const figures = figuresOf(broken.value, evaluator)
      const points = pointsOf(figures) - sound
      if (points > worst.points)
        worst = {
          failure: {
            name: fault.name,
            highest: highestOf(figures.states),
            intakeOil: oilOf(figures),
          },
          points,
        }
    }
    yield (i + 1) / faults.length
  }
  return worst
}

type BadEnds = {
  readonly high: number | undefined
  readonly low: number | undefined
  readonly worstState: StateId | undefined
}
/**
 * The ends of the crankcase's bands that are worst in any state, Pa gauge; the high one undefined where there is no answer at it. Where the
 * pistons pump a band takes two turns: only that of the highest and of the lowest mean is followed.
 */
function* badEnds(build: Build, solved: readonly SolvedState[], evaluator: Evaluator): Job<BadEnds> {
  const byMean = solved.toSorted((a, b) => b.crankcaseGauge - a.crankcaseGauge)
  const asked = pulsates(build.engine) ? [...new Set([byMean[0], byMean.at(-1)].flatMap((s) => s ?? []))] : byMean
  let worst: BadEnds | undefined
  for (const [i, s] of asked.entries()) {
    const { low, high } = yield* scaled(
      bandOf(build, s.id, s.crankcaseGauge, evaluator),
      i / asked.length,
      1 / asked.length,
    )
    const higher = !worst || (worst.high !== undefined && (high === undefined || high > worst.high))
    const lower = low !== undefined && (worst?.low === undefined || low < worst.low)
    worst = {
      high: higher ? high : worst!.high,
      worstState: higher ? s.id : worst!.worstState,
      low: lower ? low : worst?.low,
    }
  }
  return worst ?? { high: undefined, low: undefined, worstState: undefined }
}

/** What a plan is judged by, as far as it is known. */
export type MeasuredFacts = {
  /** m3 a metre that reaches the intake and is not washed off */
  readonly oil: number
  /** crankcase at the ends of its band, Pa gauge; undefined where there is no answer */
  readonly highest: number | undefined
  readonly lowest: number | undefined
  /** share of the gas that goes into the open on public roads */
  readonly vented: number
  /** looks a year that it asks for, and those that its builder is ready for */
  readonly looks: number
  readonly willing: number
  readonly hours: number
  readonly price: number
  /** means that must be borrowed, and those that will not be used */
  readonly missing: number
  readonly refused: number
  /** points that its worst failure would cost; findings that are open */
  readonly failure: number
  readonly stops: number
  readonly fixes: number
}

/**
 * Points of a plan by part, less is better.
 *
 * @example
 * import { pointsOf } from '@/plan/studies/measure'
 *
 * const none = { oil: 0, highest: -500, lowest: -900, vented: 0, looks: 0, willing: 6, missing: 0, refused: 0, failure: 0, stops: 0, fixes: 0 }
 * console.log(pointsOf({ ...none, hours: 4, price: 150 }).price) // 1.5
 */
export const pointsOf = (f: MeasuredFacts): PlanMeasure['points'] => ({
  oil: oilPoints(f.oil),
  crankcase: highPoints(f.highest) + lowPoints(f.lowest),
  law: UNLAWFUL * (1 - Math.exp(-f.vented / TRACE_VENTED)),
  looks:
    DOUBLING.looks * doublings(f.looks) +
    DOUBLING.tooRare * Math.max(0, Math.log2(Math.max(1, f.looks) / Math.max(1, f.willing))),
  work: AN_HOUR * f.hours,
  means: BORROWED * f.missing + REFUSED * f.refused,
  price: (A_HUNDRED * f.price) / 100,
  failure: SELDOM * f.failure,
  findings: A_STOP * f.stops + A_FIX * f.fixes,
})
/** All of them. */
export const totalOf = (points: PlanMeasure['points']): number => MEASURE_PARTS.reduce((sum, k) => sum + points[k], 0)

/**
 * Looks a year that a builder is ready for.
 *
 * @example
 * import { newBuild } from '@/plan/schools/new-build'
 * import { acceptedLooksAYear } from '@/plan/studies/measure'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(acceptedLooksAYear({ duty: { ...build.duty, kmPerYear: 12_000, checkEveryKm: 1500 } })) // 8
 */
export const acceptedLooksAYear = ({ duty }: Pick<Build, 'duty'>): number => duty.kmPerYear / duty.checkEveryKm

/** What of a plan's measure can be had at once, without its band and its failures: for trying changes of one plan against each other. */
export function quickTotal(build: Build, analysis: Pick<Analysis, 'states' | 'intakeOil' | 'verdicts'>): number {
  const effort = effortOf(build, activeVariant(build))
  const open = (severity: string) =>
    analysis.verdicts.filter((v) => v.severity === severity && !MEASURED.has(v.rule)).length
  return totalOf(
    pointsOf({
      oil: oilWithLost(build, analysis) * unwashedShare(build.engine),
      highest: highestOf(analysis.states),
      lowest: analysis.states.filter(isSolved).reduce((least, s) => Math.min(least, s.crankcaseGauge), 0),
      vented: ventedShare(build, analysis),
      looks: 0,
      willing: 1,
      hours: effort.hours,
      price: effort.price,
      missing: effort.means.length,
      refused: 0,
      failure: 0,
      stops: open('stop'),
      fixes: open('fix'),
    }),
  )
}

/**
 * Measures the active plan of a build. Yields the share done.
 * @param analysis the plan worked out and judged, over the turn where its pistons pump
 *
 * @example
 * import { finish } from '@/core/job'
 * import { analyse } from '@/plan/analyse'
 * import { makeEvaluator } from '@/plan/model/evaluator'
 * import { newBuild } from '@/plan/schools/new-build'
 * import { measurePlan } from '@/plan/studies/measure'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const evaluator = makeEvaluator()
 * const analysis = analyse(build, '2026-11-24', evaluator)
 * console.log(finish(measurePlan(build, '2026-11-24', analysis, evaluator)).total) // 39.171721292097345
 */
export function* measurePlan(build: Build, today: string, analysis: Analysis, evaluator: Evaluator): Job<PlanMeasure> {
  const solved = analysis.states.filter(isSolved)
  const complete = solved.length === analysis.states.length
  const { high, low, worstState } = yield* scaled(badEnds(build, solved, evaluator), 0, 0.7)
  const failure = yield* scaled(worstFailure(build, evaluator), 0.7, 0.3)

  const unwashed = unwashedShare(build.engine)
  const oil = complete ? analysis.intakeOil : oilWithLost(build, analysis) * analysis.oilLearned
  const drain = drainIn(build, analysis.states)
  const cans =
    drain === 'never drains' ? withLearnedRates(bayed(build), analysis, today, evaluator).cans : analysis.cans
  const emptied = cans.reduce((s, c) => Math.min(s, c.distance.low), Infinity)
  const interval = Math.min(emptied, drain === 'drains at times' ? DRAINS_AT_TIMES_M : Infinity)
  const yearM = build.duty.kmPerYear * 1000
  const looks = Number.isFinite(interval) ? yearM / Math.max(1, interval) : 0
  const effort = effortOf(build, activeVariant(build))
  const { has = [], refuses = [] } = build.bench ?? {}
  const refused = effort.means.filter((m) => refuses.includes(m))
  const missing = effort.means.filter((m) => !has.includes(m) && !refuses.includes(m))
  const vented = Math.max(
    ventedShare(build, analysis),
    opensOnTheRoad(build, complete ? high : undefined) ? RELIEF_VENT_SHARE : 0,
  )
  const open = (severity: string) =>
    analysis.verdicts.filter((v) => v.severity === severity && !MEASURED.has(v.rule)).length
  const [stops, fixes] = [open('stop'), open('fix')]
  const highest = complete ? high : undefined
  const points = pointsOf({
    oil: oil * unwashed,
    highest,
    lowest: low,
    vented,
    looks,
    willing: acceptedLooksAYear(build),
    hours: effort.hours,
    price: effort.price,
    missing: missing.length,
    refused: refused.length,
    failure: failure.points,
    stops,
    fixes,
  })
  return {
    points,
    total: totalOf(points),
    facts: {
      intakeOil: oil,
      unwashed,
      highest,
      lowest: low,
      worstState,
      vented,
      looks,
      interval,
      drain,
      effort,
      missing,
      refused,
      worstFailure: failure.failure,
      stops,
      fixes,
    },
  }
}
