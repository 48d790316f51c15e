/** Water that cans catch, by the weather and by how warm the engine is: the gas of a solved state carried again, with other walls about it. */
import type { StateId } from '@/core/engine/states'
import { toSi } from '@/core/units/units'
import { climateOf } from '../catalogue/climates'
import type { Build } from '../document/schema'
import type { Carriage } from '@/core/separation/carriage'
import { waterCaughtIn, waterByCan, type CarryingPlan, type SolvedRun } from './carriage'

/** kg/s by state and can. */
type WaterCaught = Readonly<Partial<Record<StateId, Readonly<Record<string, number>>>>>
/** Water caught with the outside air so warm: by a warm engine, and at the start of a trip, with walls as cold as that air. */
export type WaterAt = { readonly ambientC: number; readonly warm: WaterCaught; readonly cold: WaterCaught }

/** Steps between the temperatures at which water is worked out, K; between them it is read straight. */
const STEP = 8
/** How much colder the gas is at the start of a trip, K (estimate). */
const GAS_LESS = 40

/** Air temperatures, C, coldest first, that tell of a build's months; its own alone where nobody said what winters it sees. */
export function weatherOf({ site }: Pick<Build, 'site'>): readonly number[] {
  const means = climateOf(site)?.means ?? []
  const [from, to] = [Math.min(site.ambientC, ...means), Math.max(site.ambientC, ...means)]
  const steps = Math.ceil((to - from) / STEP)
  return Array.from({ length: steps + 1 }, (_, k) => from + (k * (to - from)) / Math.max(1, steps))
}

/** Water caught by each can in one state, kg/s, weather by weather. */
export type StateWater = readonly {
  readonly warm: Readonly<Record<string, number>>
  readonly cold: Readonly<Record<string, number>>
}[]

/**
 * Water caught in one solved state in each weather.
 * @param load the state's own carriage, which tells of its site's air
 */
export function waterInWeather(
  plan: CarryingPlan,
  running: SolvedRun,
  load: Carriage,
  weather: readonly number[],
): StateWater {
  const { bonnetK } = running.operating
  const here = plan.build.site.ambientC
  return weather.map((airC) => ({
    warm:
      airC === here
        ? waterByCan(load)
        : waterCaughtIn(plan, running, { airC, gasLess: 0, bonnetK: bonnetK + airC - here }),
    cold: waterCaughtIn(plan, running, { airC, gasLess: GAS_LESS, bonnetK: toSi('temperature', airC, 'C') }),
  }))
}

/** The same by weather first, of all states that have an answer. */
export const byWeather = (
  weather: readonly number[],
  states: readonly { readonly id: StateId; readonly water: StateWater }[],
): readonly WaterAt[] =>
  weather.map((ambientC, k) => ({
    ambientC,
    warm: Object.fromEntries(states.map((s) => [s.id, s.water[k]!.warm])),
    cold: Object.fromEntries(states.map((s) => [s.id, s.water[k]!.cold])),
  }))
