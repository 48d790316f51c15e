/** Driving as hours in states. */
import type { StateId } from '../engine/states'
import type { Cornering } from '../separation/source'

export const ACTIVITIES = ['street', 'motorway', 'mountain', 'track', 'drag', 'towing', 'shortCold'] as const
export type Activity = (typeof ACTIVITIES)[number]

export type ActivityFacts = {
  readonly name: string
  /** share of the hours in each state, sums to 1 */
  readonly states: Readonly<Record<StateId, number>>
  readonly kmPerHour: number
  /** on public roads */
  readonly road: boolean
  /** how hard it is cornered and braked, sustained */
  readonly cornering: Cornering
  /** length of a trip, km, started cold */
  readonly tripKm: number
}

/** Typical shares (estimates; the log corrects them). */
export const ACTIVITY_FACTS: Readonly<Record<Activity, ActivityFacts>> = {
  street: {
    name: 'Street',
    states: { idle: 0.26, cruise: 0.55, pull: 0.02, spool: 0.04, boost: 0.01, overrun: 0.12 },
    kmPerHour: 40,
    road: true,
    cornering: 'road',
    tripKm: 10,
  },
  motorway: {
    name: 'Motorway',
    states: { idle: 0.02, cruise: 0.89, pull: 0.01, spool: 0.02, boost: 0.01, overrun: 0.05 },
    kmPerHour: 105,
    road: true,
    cornering: 'road',
    tripKm: 60,
  },
  mountain: {
    name: 'Mountain road',
    states: { idle: 0.03, cruise: 0.35, pull: 0.15, spool: 0.1, boost: 0.15, overrun: 0.22 },
    kmPerHour: 60,
    road: true,
    cornering: 'mountain',
    tripKm: 40,
  },
  track: {
    name: 'Track session',
    states: { idle: 0.05, cruise: 0.1, pull: 0.1, spool: 0.1, boost: 0.45, overrun: 0.2 },
    kmPerHour: 110,
    road: false,
    cornering: 'track',
    tripKm: 37,
  },
  drag: {
    name: 'Drag passes',
    states: { idle: 0.7, cruise: 0.1, pull: 0.02, spool: 0.03, boost: 0.12, overrun: 0.03 },
    kmPerHour: 12,
    road: false,
    cornering: 'road',
    tripKm: 4,
  },
  towing: {
    name: 'Towing',
    states: { idle: 0.05, cruise: 0.45, pull: 0.2, spool: 0.05, boost: 0.2, overrun: 0.05 },
    kmPerHour: 75,
    road: true,
    cornering: 'road',
    tripKm: 60,
  },
  shortCold: {
    name: 'Short cold trips',
    states: { idle: 0.4, cruise: 0.46, pull: 0.02, spool: 0.04, boost: 0, overrun: 0.08 },
    kmPerHour: 25,
    road: true,
    cornering: 'road',
    tripKm: 3,
  },
}

/**
 * Share of an activity's hours in a state of this engine. Without a charger what would be boost is full load, what would be spool is cruise.
 *
 * @example
 * import { stateShare } from '@/core/service/rates'
 *
 * console.log(stateShare('street', 'pull', ['idle', 'cruise', 'pull', 'overrun'])) // 0.03
 */
export function stateShare(activity: Activity, state: StateId, present: readonly StateId[]): number {
  const shares = ACTIVITY_FACTS[activity].states
  const charged = present.includes('boost')
  if (!charged && state === 'pull') return shares.pull + shares.boost
  if (!charged && state === 'cruise') return shares.cruise + shares.spool
  return shares[state]
}

/** Distance in which what is colder than in a warm engine falls to 1/e, km (estimate). */
const WARM_UP_KM = 4

/**
 * Share of an activity's driving that is done cold: of a trip on which the cold dies away with distance, its mean.
 *
 * @example
 * import { coldShare } from '@/core/service/rates'
 *
 * console.log(coldShare('shortCold')) // 0.7035112630119804
 */
export function coldShare(activity: Activity): number {
  const trips = ACTIVITY_FACTS[activity].tripKm / WARM_UP_KM
  return (1 - Math.exp(-trips)) / trips
}

/**
 * Hours of a duty on public roads.
 *
 * @example
 * import { roadHours } from '@/core/service/rates'
 *
 * console.log(roadHours({ street: 5, motorway: 3, mountain: 0, track: 2, drag: 0, towing: 0, shortCold: 1 })) // 9
 */
export const roadHours = (hours: Readonly<Record<Activity, number>>): number =>
  ACTIVITIES.reduce((sum, a) => sum + (ACTIVITY_FACTS[a].road ? hours[a] : 0), 0)

export const TRACK_SESSION_HOURS = 20 / 60
