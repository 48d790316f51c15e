/** Water that the oil takes up: a cold crankcase condenses it, and only oil that is hot enough drives it off again. */
import { GAS_R } from '@/core/gas/air'
import { WATER_POURED } from '@/core/gas/oil'
import { ACTIVITIES, ACTIVITY_FACTS, coldShare, stateShare } from '@/core/service/rates'
import { condensedWater, WATER_KG_PER_MOL } from '@/core/water/vapour'
import type { Build, PartOf } from '../document/schema'
import { airWater, blowByWater } from '../model/carriage'
import type { Figures } from '../model/results'
import { neverDrains } from '../bay/drains'
import { climateOf } from '../catalogue/climates'
import { toSi } from '@/core/units/units'
import { activeVariant } from '../edit/edit'
import { canRates } from './can-rates'

/** Oil at this temperature and above drives off the water in it (common practice, no source), K. */
export const OIL_DRIES_K = 366.15
/** How far a cold crankcase stands above the surroundings, K (estimate). */
const COLD_WALL = 20
/** Molar gas constant, J/(mol K). */
const MOLAR = 8.314

/**
 * Water that blow-by leaves in a cold crankcase on the build's duty, m3 per metre driven; undefined where nothing is driven. Undiluted gas
 * on walls a little warmer than the surroundings.
 *
 * @example
 * import { figuresOf } from '@/plan/model/figures'
 * import { newBuild } from '@/plan/schools/new-build'
 * import { waterIntoOil } from '@/plan/service/oil-water'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(waterIntoOil(build, figuresOf(build))) // 4.46083433679569e-11
 */
export function waterIntoOil(build: Build, { engine, states }: Pick<Figures, 'engine' | 'states'>): number | undefined {
  const { pressurePa, temperatureK } = engine.amb
  const present = states.map((s) => s.id)
  const y = blowByWater(build.engine, airWater(build, pressurePa))
  let [kg, metres] = [0, 0]
  for (const a of ACTIVITIES) {
    const hours = build.duty.hours[a]
    metres += hours * ACTIVITY_FACTS[a].kmPerHour * 1000
    for (const s of states) {
      const mol = (s.blowBy * GAS_R) / MOLAR
      const { molPerS } = condensedWater(mol * (1 - y), y, temperatureK + COLD_WALL, pressurePa)
      kg += hours * 3600 * coldShare(a) * stateShare(a, s.id, present) * molPerS * WATER_KG_PER_MOL
    }
  }
  return metres > 0 ? kg / WATER_POURED / metres : undefined
}

/** What the drain of a separator takes to the sump, m3 per metre, in the coldest month of the site; and how cold that is, K. */
export type Returned = { readonly oil: number; readonly water: number; readonly airK: number }

/** Undefined for a can without a drain, and for one whose drain lets nothing down. */
export function returnedBy(build: Build, figures: Figures, can: PartOf<'can'>): Returned | undefined {
  if (!can.drain || neverDrains(build, activeVariant(build), figures.states, can.id)) return undefined
  const airC = Math.min(build.site.ambientC, ...(climateOf(build.site)?.means ?? []))
  const { all } = canRates(build, figures, can.id).at(airC)
  return { oil: all.oil, water: all.water, airK: toSi('temperature', airC, 'C') }
}
