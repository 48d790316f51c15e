/** Water that the oil takes up: a cold crankcase condenses it, and only oil that is hot enough drives it off again. */
import { GAS_R } from '@/core/gas/air'
import { WATER_POURED } from '@/core/gas/oil'
import { ACTIVITIES, ACTIVITY_FACTS, stateShare, type Activity } from '@/core/service/rates'
import { condensedWater, WATER_KG_PER_MOL } from '@/core/water/vapour'
import type { Build } from '../document/schema'
import { airWater, blowByWater } from '../model/carriage'
import type { Figures } from '../model/results'

/** Oil at this temperature and above drives off the water in it (common practice, no source), K. */
export const OIL_DRIES_K = 366.15
/**
 * Share of other road hours in which a started engine is still cold, and how far its crankcase then stands above the
 * surroundings, K (estimates).
 */
const WARM_UP = 0.1
const COLD_WALL = 20
/** Molar gas constant, J/(mol K). */
const MOLAR = 8.314

const coldShare = (a: Activity): number => (a === 'shortCold' ? 1 : ACTIVITY_FACTS[a].road ? WARM_UP : 0)

/**
 * Water that blow-by leaves in a cold crankcase on the build's duty, m3 per metre driven; undefined where nothing is driven. Undiluted gas
 * on walls a little warmer than the surroundings.
 */
export function waterIntoOil(build: Build, { engine, states }: Pick<Figures, 'engine' | 'states'>): number | undefined {
  const { pressurePa, temperatureK } = engine.amb
  const present = states.map((s) => s.id)
  const y = blowByWater(airWater(build, pressurePa))
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
