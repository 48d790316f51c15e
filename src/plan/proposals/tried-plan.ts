/** One plan tried, in stages: what needs no solving first, then oil and pressure as they are likely, then the bad end of its band, then its findings. */
import { fullLoadState, type StateId } from '@/core/engine/states'
import { roadHours } from '@/core/service/rates'
import { judge } from '../verdicts/judge'
import { PART_EFFORT, type Means } from '../catalogue/effort'
import { CANS } from '../catalogue/cans'
import { MEANS } from '../document/bounds'
import type { Build, Variant } from '../document/schema'
import { activeVariant } from '../edit/edit'
import type { Evaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { LIMITS } from '../model/limits'
import { isSolved, type Figures, type SolvedState } from '../model/results'
import { canRates } from '../service/can-rates'
import { movedEngine, movedGauge, worstDirection, type BadWay } from '../studies/bad-end'
import { effortForEngine } from '../studies/effort'
import {
  shareVented,
  opensOnTheRoad,
  pointsOf,
  RELIEF_VENT_SHARE,
  totalOf,
  unwashedShare,
  acceptedLooksAYear,
} from '../studies/measure'
import { planInputs } from '../studies/uncertain'
import type { Genome, PlanMaker } from './genome'
import { WALLS, type PlanWall, type Wishes } from './wishes'

/** Less is better: unwashed oil to the intake, m3 a metre; crankcase at the bad end, Pa gauge; looks a year; hours; price. */
export const OBJECTIVES = ['oil', 'pressure', 'looks', 'hours', 'price'] as const
export type Objective = (typeof OBJECTIVES)[number]

/** What is known of a plan, whatever is wished; NaN until it was worked out. */
export type PlanFigures = Readonly<Record<Objective, number>> & {
  /** crankcase at the other end of its band, and as it is likely at its highest and lowest, Pa gauge */
  readonly lowest: number
  readonly likelyHigh: number
  readonly likelyLow: number
  /** share of the gas that goes into the open */
  readonly vented: number
  /** points of findings that are to be mended in it */
  readonly findings: number
  /** means that it takes and cans that it has, each list as bits */
  readonly means: number
  readonly cans: number
  /** 1: hours and price; 2: the rest as it is likely; 3: the bad end too; 4: judged; 0: no answer in some state */
  readonly stage: number
}
export type TriedPlan = { readonly genome: Genome; readonly figures: PlanFigures }

const bitsOf = (list: readonly string[], had: readonly string[]) =>
  list.reduce((bits, x, k) => (had.includes(x) ? bits | (1 << k) : bits), 0)
const CAN_KEYS = CANS.map((c) => c.key)
/** What a plan takes that is refused. */
export const refusedMeans = ({ means }: Pick<PlanFigures, 'means'>, refused: readonly Means[]): readonly Means[] =>
  refused.filter((m) => (means & (1 << MEANS.indexOf(m))) !== 0)

/** Points of a finding that must be mended, and of one that should: more than what its press costs. */
const [STOP_POINTS, FIX_POINTS] = [20, 8]
/** Of a bowl, how much is used before it is looked at. */
const USED = 0.7

/** What parts cost for one who has a can in the drawer. */
export const priceWith = ({ price, cans }: Pick<PlanFigures, 'price' | 'cans'>, { keepCan }: Wishes): number =>
  keepCan !== undefined && (cans & (1 << CAN_KEYS.indexOf(keepCan))) !== 0
    ? Math.max(0, price - PART_EFFORT.can.price)
    : price

/** What a plan is weighed by for one who has these wishes. */
export const objectivesOf = (f: PlanFigures, wishes: Wishes): Readonly<Record<Objective, number>> => ({
  oil: f.oil,
  pressure: f.pressure,
  looks: f.looks,
  hours: f.hours,
  price: priceWith(f, wishes),
})

/** What stops a plan first, as far as it was worked out; undefined where nothing does. */
export function wallOf(f: PlanFigures, wishes: Wishes): PlanWall | undefined {
  if (refusedMeans(f, wishes.refused).length > 0) return 'means'
  if (priceWith(f, wishes) > wishes.mostPrice) return 'price'
  if (f.hours > wishes.mostHours) return 'hours'
  if (wishes.keepCan !== undefined && (f.cans & (1 << CAN_KEYS.indexOf(wishes.keepCan))) === 0) return 'drawer'
  if (f.stage === 0) return 'no answer'
  if (wishes.sealed && f.vented > 0) return 'law'
  if (f.looks > wishes.mostLooks) return 'looks'
  const [high, low] = wishes.badEnd ? [f.pressure, f.lowest] : [f.likelyHigh, f.likelyLow]
  if (high > LIMITS.crankcaseHigh || low < LIMITS.crankcaseTooLow) return 'pressure'
  return undefined
}
/** Whether a plan was worked out whole and nothing stops it. */
export const isSound = ({ figures }: TriedPlan, wishes: Wishes): boolean =>
  figures.stage === 4 && wallOf(figures, wishes) === undefined
/** How far above a limit something is, 0 to 1. */
const beyond = (x: number, limit: number, scale: number): number => {
  const over = Math.max(0, x - limit) / scale
  return over / (1 + over)
}
/** So far past its limit a pressure counts half, Pa. */
const PRESSURE_SCALE = 1000
/** How far a plan is past the wall that stops it, 0 to 1. */
function excessOf(f: PlanFigures, wall: PlanWall, wishes: Wishes): number {
  const [high, low] = wishes.badEnd ? [f.pressure, f.lowest] : [f.likelyHigh, f.likelyLow]
  switch (wall) {
    case 'pressure':
      return Math.max(
        beyond(high, LIMITS.crankcaseHigh, PRESSURE_SCALE),
        beyond(-low, -LIMITS.crankcaseTooLow, PRESSURE_SCALE),
      )
    case 'looks':
      return beyond(f.looks, wishes.mostLooks, Math.max(1, wishes.mostLooks))
    case 'hours':
      return beyond(f.hours, wishes.mostHours, Math.max(1, wishes.mostHours))
    case 'price':
      return beyond(priceWith(f, wishes), wishes.mostPrice, Math.max(100, wishes.mostPrice))
    default:
      return 0.5
  }
}
/** How far a plan is from passing: 0 passes; the earlier a wall the further, and the further past it. */
export function brokenBy(f: PlanFigures, wishes: Wishes): number {
  const wall = wallOf(f, wishes)
  if (wall === undefined) return 0
  const excess = excessOf(f, wall, wishes)
  return WALLS.length - WALLS.indexOf(wall) + (Number.isFinite(excess) ? excess : 1)
}

/** Points of a tried plan, as the measure of ranking gives them, but for failures, findings and drains; less is better. */
export function roughPoints(build: Build, f: PlanFigures, wishes: Wishes): number {
  const { has = [] } = build.bench ?? {}
  const means = MEANS.filter((_, k) => (f.means & (1 << k)) !== 0)
  const points = totalOf(
    pointsOf({
      oil: f.oil,
      highest: f.pressure,
      lowest: f.lowest,
      vented: roadHours(build.duty.hours) > 0 ? f.vented : 0,
      looks: f.looks,
      willing: acceptedLooksAYear(build),
      hours: f.hours,
      price: priceWith(f, wishes),
      missing: means.filter((m) => !has.includes(m)).length,
      refused: 0,
      failure: 0,
      stops: 0,
      fixes: 0,
    }),
  )
  return points + f.findings
}

/**
 * Tries plans for one build.
 * @param alike whose way to the bad end a plan takes: it is much the same for all sizes of a circuit; left out, each trial is of one plan
 */
export function planTrial(
  build: Build,
  evaluator: Evaluator,
  alike?: PlanMaker['alike'],
): {
  /** the first stage of a plan */
  readonly begin: (genome: Genome, plan: Variant) => TriedPlan
  /**
   * goes on with a plan until a wall stops it or all is worked out
   * @param worth whether a plan is worth its bad end and its findings, by its likely figures; left out, each is
   */
  readonly goOn: (tried: TriedPlan, plan: Variant, wishes: Wishes, worth?: (tried: TriedPlan) => boolean) => TriedPlan
} {
  const ways = new Map<string, BadWay | undefined>()
  const effort = effortForEngine(build.engine)
  const withPlan = (plan: Variant): Build => ({ ...build, active: plan.id, variants: [plan], learned: undefined })

  /** The way to a bad end in a state, found once for all plans that are alike; undefined where nothing moves it. */
  function wayOf({ key, plan }: ReturnType<PlanMaker['alike']>, id: StateId, sign: 1 | -1): BadWay | undefined {
    const name = `${key} ${id} ${sign}`
    if (!ways.has(name)) {
      const at = withPlan(plan)
      const direction = worstDirection(at, id, evaluator)
      const by = direction && new Map([...direction].map(([input, score]) => [input, sign * score]))
      const engine = by && movedEngine(at, by)
      ways.set(name, by && engine && by.size > 0 ? { by, engine } : undefined)
    }
    return ways.get(name)
  }
  /** @param plan with what is uncertain of it */
  function badEnd(
    plan: Parameters<typeof movedGauge>[0],
    like: ReturnType<PlanMaker['alike']>,
    state: SolvedState,
    sign: 1 | -1,
  ): number {
    const way = wayOf(like, state.id, sign)
    if (!way) return state.crankcaseGauge
    // where there is no answer seals have let go
    return movedGauge(plan, state.id, way, evaluator) ?? LIMITS.sealsLetGo
  }

  return {
    begin(genome, plan) {
      const { hours, price, means } = effort(plan)
      const cans = plan.parts.flatMap((p) => (p.kind === 'can' && p.model ? [p.model] : []))
      const unknown = Number.NaN
      return {
        genome,
        figures: {
          oil: unknown,
          pressure: unknown,
          looks: unknown,
          hours,
          price,
          lowest: unknown,
          likelyHigh: unknown,
          likelyLow: unknown,
          findings: unknown,
          vented: unknown,
          means: bitsOf(MEANS, means),
          cans: bitsOf(CAN_KEYS, cans),
          stage: 1,
        },
      }
    },
    goOn(tried, plan, wishes, worth = () => true) {
      let { figures } = tried
      const { genome } = tried
      if (figures.stage === 0 || figures.stage === 4 || wallOf(figures, wishes) !== undefined) return tried
      if (figures.stage === 2 && !worth(tried)) return tried
      const at = withPlan(plan)
      const worked = figuresOf(at, evaluator)
      if (figures.stage === 1) figures = { ...figures, ...likelyFigures(at, worked) }
      if (wallOf(figures, wishes) !== undefined || !worth({ genome, figures })) return { genome, figures }
      const solved = worked.states.filter(isSolved)
      const outermost = (sign: 1 | -1) =>
        solved.reduce((worst, s) => (sign * s.crankcaseGauge > sign * worst.crankcaseGauge ? s : worst))
      const full = solved.find((s) => s.id === fullLoadState(build.engine.induction))
      const like = alike?.(genome) ?? { key: 'itself', plan }
      // the band of full load is the widest, wherever its middle stands
      const highs = new Set([outermost(1), ...(full ? [full] : [])])
      const uncertain = { build: at, inputs: planInputs(at, evaluator.resolve) }
      const pressure = Math.max(...[...highs].map((s) => badEnd(uncertain, like, s, 1)))
      const lowest = badEnd(uncertain, like, outermost(-1), -1)
      const vented = opensOnTheRoad(at, pressure) ? Math.max(figures.vented, RELIEF_VENT_SHARE) : figures.vented
      figures = { ...figures, pressure, lowest, vented, stage: 3 }
      if (wallOf(figures, wishes) !== undefined) return { genome, figures }
      // when cans will be full is weighed as looks, and where they stand is tried of what is offered
      const verdicts = judge({ ...at, bay: undefined }, { ...worked, cans: [], oilLearned: 1 }, evaluator)
      const points = { stop: STOP_POINTS, fix: FIX_POINTS, watch: 0, ok: 0 } as const
      const findings = verdicts.reduce((sum, v) => sum + points[v.severity], 0)
      return { genome, figures: { ...figures, findings, stage: 4 } }
    },
  }
}

type Likely = Pick<
  PlanFigures,
  'oil' | 'pressure' | 'lowest' | 'likelyHigh' | 'likelyLow' | 'looks' | 'vented' | 'stage'
>
function likelyFigures(plan: Build, worked: Figures): Likely {
  const solved = worked.states.filter(isSolved)
  const gauges = solved.map((s) => s.crankcaseGauge)
  if (solved.length < worked.states.length || solved.length === 0)
    return {
      oil: Number.NaN,
      pressure: LIMITS.sealsLetGo,
      lowest: Number.NaN,
      likelyHigh: LIMITS.sealsLetGo,
      likelyLow: Number.NaN,
      looks: Number.NaN,
      vented: Number.NaN,
      stage: 0,
    }
  return {
    oil: worked.intakeOil * unwashedShare(plan.engine),
    pressure: Math.max(...gauges),
    lowest: Math.min(...gauges),
    likelyHigh: Math.max(...gauges),
    likelyLow: Math.min(...gauges),
    looks: looksAYear(plan, worked),
    vented: shareVented(plan, worked),
    stage: 2,
  }
}

/** Looks a year that the can that fills first asks for. */
function looksAYear(plan: Build, worked: Figures): number {
  const metres = plan.duty.kmPerYear * 1000
  return activeVariant(plan).parts.reduce((most, p) => {
    // what runs back by a drain of its own is not emptied
    if (p.kind !== 'can' || p.drain) return most
    const { all, known } = canRates(plan, worked, p.id).at(plan.site.ambientC)
    return known ? Math.max(most, (metres * (all.oil + all.water)) / (USED * p.bowlMl * 1e-6)) : most
  }, 0)
}
