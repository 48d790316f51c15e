/** From rates in each state to rates on the build's use. */
import { OIL_POURED, WATER_POURED } from '@/core/gas/oil'
import type { Oil } from '@/core/separation/carriage'
import { corneringFactor, type Cornering } from '@/core/separation/source'
import { ACTIVITIES, ACTIVITY_FACTS, stateShare, TRACK_SESSION_HOURS, type Activity } from '@/core/service/rates'
import { isIntake } from '../document/kinds'
import type { Build, Variant } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { pickUpOf } from './carriage'
import type { DutyRates, SolvedState, StateResult } from './results'

const HOUR = 3600
export const TRACK_KM_PER_SESSION = ACTIVITY_FACTS.track.kmPerHour * TRACK_SESSION_HOURS

export type Hourly = { oil: number; water: number }

/** What a state yields, kg/s. */
export type YieldOf = { readonly oilOf: (s: SolvedState) => Oil; readonly waterOf: (s: SolvedState) => number }

/** How hard a car corners on an activity: on slicks a track asks more of it. */
export const corneringOf = ({ duty }: Build, activity: Activity): Cornering => {
  const { cornering } = ACTIVITY_FACTS[activity]
  return cornering === 'track' && duty.tyres === 'slicks' ? 'slicks' : cornering
}

/** m3 per hour of an activity, from what each state yields; undefined when a state that it spends time in has no answer. */
export function hourly(
  build: Build,
  states: readonly StateResult[],
  activity: Activity,
  { oilOf, waterOf }: YieldOf,
): Hourly | undefined {
  const present = states.map((s) => s.id)
  const cornering = corneringFactor(pickUpOf(build, activeVariant(build)), corneringOf(build, activity))
  const sum = { oil: 0, water: 0 }
  for (const s of states) {
    const share = stateShare(activity, s.id, present)
    if (share === 0) continue
    if (!s.solved) return undefined
    const oil = oilOf(s)
    sum.oil += (share * HOUR * (oil.mist + cornering * oil.splash)) / OIL_POURED
    sum.water += (share * HOUR * waterOf(s)) / WATER_POURED
  }
  return sum
}

/** Weighted over the duty's hours, without the activities left out; per metre driven. */
export function perMetre(
  build: Build,
  of: (a: Activity) => Hourly | undefined,
  without: readonly Activity[] = [],
): DutyRates | undefined {
  let oil = 0
  let water = 0
  let track = 0
  let km = 0
  for (const a of ACTIVITIES) {
    const hours = without.includes(a) ? 0 : build.duty.hours[a]
    if (hours === 0) continue
    const rate = of(a)
    if (!rate) return undefined
    oil += hours * rate.oil
    if (a === 'track') track += hours * rate.oil
    water += hours * rate.water
    km += hours * ACTIVITY_FACTS[a].kmPerHour
  }
  if (!(km > 0)) return { oil: 0, water: 0, track: 0 }
  return { oil: oil / (km * 1000), water: water / (km * 1000), track: track / (km * 1000) }
}

/** Metres driven in an hour of the duty, its shares weighed. */
export function metresPerHour(build: Build): number {
  const hours = ACTIVITIES.reduce((s, a) => s + build.duty.hours[a], 0)
  return (ACTIVITIES.reduce((s, a) => s + build.duty.hours[a] * ACTIVITY_FACTS[a].kmPerHour, 0) * 1000) / hours
}

export const NO_OIL: Oil = { mist: 0, splash: 0 }

/** Oil that reaches the intake (manifold, inlet tract, charge pipe), m3 per metre on the duty. NaN never: 0 when a state has no answer. */
export function intakeOil(build: Build, variant: Variant, states: readonly StateResult[]): number {
  const intake = variant.parts.filter((p) => isIntake(p.kind)).map((p) => p.id)
  const oilOf = (s: SolvedState): Oil =>
    intake.reduce(
      (sum, id) => ({
        mist: sum.mist + (s.into[id]?.oil.mist ?? 0),
        splash: sum.splash + (s.into[id]?.oil.splash ?? 0),
      }),
      NO_OIL,
    )
  return perMetre(build, (a) => hourly(build, states, a, { oilOf, waterOf: () => 0 }))?.oil ?? 0
}
