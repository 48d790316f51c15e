/** What a driver or a fitter notices, each from figures of the plan: a threshold that is soft, since one sees it sooner than another. */
import type { StateId } from '@/core/engine/states'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { oilSum, solvedIn, type Figures } from '../model/results'
import { waterIntoOil } from '../service/oil-water'
import type { GasState } from './gas-states'

export const SYMPTOM_IDS = [
  'smoke-overrun',
  'dipstick-lifts',
  'lean-idle',
  'squeal',
  'sludge',
  'oil-at-vent',
  'seals-leak',
  'fills-fast',
  'stays-dry',
] as const
export type SymptomId = (typeof SYMPTOM_IDS)[number]

/** Figures of a plan that symptoms depend on; NaN where it has none such. */
export type SymptomFigures = {
  /** highest crankcase of any state, Pa gauge */
  readonly highest: number
  /** air past the meter at idle, share of 1 */
  readonly unmetered: number
  /** oil into the intake, kg/s: on the overrun, and at full load before it */
  readonly smoke: number
  /** suction at idle over what a regulator holds, in bands of it */
  readonly pulled: number
  /** water into the oil, kg/s or m3 a metre: only its ratio counts */
  readonly sludge: number
  /** oil out of vents, kg/s in the worst state */
  readonly vented: number
  /** what cans catch, m3 a metre */
  readonly caught: number
}

type SymptomFacts = {
  readonly name: string
  /** how far over its threshold a plan is, in thresholds; of the sound plan beside it; NaN where it cannot be */
  readonly over: (now: SymptomFigures, sound: SymptomFigures) => number
}
const ratio = (a: number, b: number, least: number) => Math.log(Math.max(a, least) / Math.max(b, least))
/** Oil that is noticed at all, kg/s (a gram an hour), and least catch, m3 a metre (a tenth of an ml in 1 000 km). */
const [NOTICED_OIL, NOTICED_CATCH] = [3e-7, 1e-13]
/** Thresholds (methods 12, estimates): Pa, shares of 1, and ratios to the sound plan. */
const [LIFTS_PA, LEAKS_PA, LEAN, SMOKES, VENTS, SLUDGES, FAST, DRY] = [3000, 2000, 0.03, 2.5, 2.5, 1.5, 1.6, 0.5]

export const SYMPTOMS: Readonly<Record<SymptomId, SymptomFacts>> = {
  'smoke-overrun': {
    name: 'Smoke on the overrun, or after a long pull',
    over: (now, sound) => ratio(now.smoke, sound.smoke, NOTICED_OIL) / Math.log(SMOKES),
  },
  'dipstick-lifts': { name: 'The dipstick lifts', over: (now) => now.highest / LIFTS_PA },
  'lean-idle': { name: 'Lean code, or a high or hunting idle', over: (now) => now.unmetered / LEAN },
  squeal: { name: 'It squeals or whistles at idle', over: (now) => Math.max(now.pulled, now.unmetered / LEAN / 2) },
  sludge: {
    name: 'Milky sludge under the cap',
    over: (now, sound) => ratio(now.sludge, sound.sludge, 1e-18) / Math.log(SLUDGES),
  },
  'oil-at-vent': {
    name: 'Oil at the vent filter',
    over: (now, sound) => ratio(now.vented, sound.vented, NOTICED_OIL) / Math.log(VENTS),
  },
  'seals-leak': { name: 'Seals or gaskets weep oil', over: (now) => now.highest / LEAKS_PA },
  'fills-fast': {
    name: 'The can fills faster than it did',
    over: (now, sound) => ratio(now.caught, sound.caught, NOTICED_CATCH) / Math.log(FAST),
  },
  'stays-dry': {
    name: 'The can stays dry',
    over: (now, sound) => ratio(now.caught, sound.caught, NOTICED_CATCH) / Math.log(DRY),
  },
}

/** Nobody is sure to notice, and some notice what is not there. */
const [LEAST_SEEN, MOST_SEEN] = [0.04, 0.96]
/** A threshold is as soft as a third of itself. */
const SOFT = 1 / 3

/** Chance that a symptom is seen with a plan as it is; undefined where the plan cannot show it. */
export function chanceSeen(id: SymptomId, now: SymptomFigures, sound: SymptomFigures): number | undefined {
  const over = SYMPTOMS[id].over(now, sound)
  if (Number.isNaN(over)) return undefined
  return LEAST_SEEN + (MOST_SEEN - LEAST_SEEN) / (1 + Math.exp(-(over - 1) / SOFT))
}

const FULL: readonly StateId[] = ['pull', 'spool', 'boost']

/** Figures on which symptoms depend. @param caught m3 a metre by all cans; NaN without one */
export function symptomFigures(
  build: Build,
  gas: readonly GasState[],
  figures: Figures,
  caught: number,
): SymptomFigures {
  const { parts } = activeVariant(build)
  const idle = gas.find((s) => s.id === 'idle')
  const regulator = parts.find((p) => p.kind === 'regulator')
  const intake = parts.filter((p) => p.kind === 'manifold' || p.kind === 'inlet' || p.kind === 'blowerInlet')
  const open = parts.filter((p) => p.kind === 'atmosphere')
  const oilInto = (where: typeof parts, state: StateId): number => {
    const s = solvedIn(figures, state)
    return s ? where.reduce((sum, p) => sum + oilSum(s.into[p.id]?.oil), 0) : 0
  }
  return {
    highest: Math.max(...gas.map((s) => s.crankcase)),
    unmetered: idle?.unmetered ?? 0,
    smoke:
      intake.length > 0 ? oilInto(intake, 'overrun') + Math.max(...FULL.map((s) => oilInto(intake, s))) : Number.NaN,
    pulled:
      regulator && idle
        ? (regulator.setKpa * 1000 - idle.crankcase) / (1000 * regulator.bandKpa) - 0.5
        : Number.NEGATIVE_INFINITY,
    sludge: waterIntoOil(build, figures) ?? Number.NaN,
    vented: open.length > 0 ? Math.max(...gas.map((s) => oilInto(open, s.id))) : Number.NaN,
    caught,
  }
}
