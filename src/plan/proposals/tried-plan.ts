/** One plan tried, in stages: what needs no solving first, then the gas, then the oil and how often it asks for a look. */
import type { Build, Variant } from '../document/schema'
import { activeVariant } from '../edit/edit'
import type { Evaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { LIMITS } from '../model/limits'
import { isSolved, type Figures } from '../model/results'
import { canRates } from '../service/can-rates'
import { effortOf } from '../studies/effort'
import { unwashedShare } from '../studies/measure'
import type { GasState } from '../finder/gas-states'
import type { Genome } from './genome'
import type { PlanWall, Wishes } from './wishes'

/** Less is better: unwashed oil to the intake, m3 a metre; highest crankcase, Pa gauge; looks a year; hours; price. */
export const OBJECTIVES = ['oil', 'pressure', 'looks', 'hours', 'price'] as const
export type Objective = (typeof OBJECTIVES)[number]
export type TriedPlan = {
  readonly genome: Genome
  readonly variant: Variant
  /** what stopped it first; undefined where nothing did */
  readonly wall: PlanWall | undefined
  /** as far as they were worked out: hours and price always, the rest where nothing stopped it before */
  readonly figures: Readonly<Record<Objective, number>>
}

/** Of a bowl, how much is used before it is looked at. */
const USED = 0.7
/** Share of blow-by into the open that counts as vented: more than a cap lets by at its seat. */
const VENTED = 0.01

export type Trial = {
  readonly build: Build
  readonly wishes: Wishes
  readonly evaluator: Evaluator
  readonly solveGas: (build: Build) => readonly GasState[] | undefined
}

const withPlan = (build: Build, variant: Variant): Build => ({
  ...build,
  active: 'a',
  variants: [variant],
  learned: undefined,
})

/** Whether gas of the road leaves into the open. */
function isVented(build: Build, { states }: Figures): boolean {
  const open = activeVariant(build).parts.filter((p) => p.kind === 'atmosphere')
  return states
    .filter(isSolved)
    .some((s) => open.reduce((sum, p) => sum + Math.max(0, s.into[p.id]?.gas ?? 0), 0) > VENTED * s.blowBy)
}

/** Tries a plan. */
export function tryPlan({ build, wishes, evaluator, solveGas }: Trial, genome: Genome, variant: Variant): TriedPlan {
  const { hours, price, means } = effortOf(build, variant)
  const figures = { oil: Number.NaN, pressure: Number.NaN, looks: Number.NaN, hours, price }
  const stopped = (wall: PlanWall, more: Partial<typeof figures> = {}): TriedPlan => ({
    genome,
    variant,
    wall,
    figures: { ...figures, ...more },
  })
  if (means.some((m) => wishes.refused.includes(m))) return stopped('means')
  if (price > wishes.mostPrice) return stopped('price')
  if (hours > wishes.mostHours) return stopped('hours')
  if (wishes.keepCan !== undefined && !variant.parts.some((p) => p.kind === 'can' && p.model === wishes.keepCan))
    return stopped('means')
  const plan = withPlan(build, variant)
  const gas = solveGas(plan)
  if (!gas) return stopped('no answer')
  const pressure = gas.reduce((most, s) => Math.max(most, s.crankcase), -Infinity)
  const lowest = gas.reduce((least, s) => Math.min(least, s.crankcase), Infinity)
  if (pressure >= LIMITS.sealsLetGo) return stopped('no answer')
  if (pressure > LIMITS.crankcaseHigh || lowest < LIMITS.crankcaseTooLow) return stopped('pressure', { pressure })
  const worked = figuresOf(plan, evaluator)
  const oil = worked.intakeOil * unwashedShare(build.engine)
  const looks = looksAYear(plan, worked)
  const known = { oil, pressure, looks }
  if (wishes.sealed && isVented(plan, worked)) return stopped('law', known)
  if (looks > wishes.mostLooks) return stopped('looks', known)
  return { genome, variant, wall: undefined, figures: { ...figures, ...known } }
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
