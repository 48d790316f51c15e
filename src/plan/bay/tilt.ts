/** Driving tilts the oil: how a drain stands it while the car launches, brakes and corners as hard as its duty asks. */
import { profileOf } from '@/core/drain/profile'
import { GRAVITY } from '@/core/gas/air'
import { ACTIVITIES, type Activity } from '@/core/service/rates'
import type { Build } from '../document/schema'
import type { BayDrain } from './drains'

/** Hardest accelerations of each activity, in g: launch, braking, cornering; sustained where oil has the time to follow (estimates). */
const HARDEST: Readonly<
  Record<Activity, readonly [launch: number, braking: number, cornering: number, sustained: boolean]>
> = {
  street: [0.3, 0.5, 0.4, false],
  motorway: [0.2, 0.4, 0.2, false],
  mountain: [0.4, 0.6, 0.6, true],
  track: [0.5, 1, 1.1, true],
  drag: [1.2, 0.8, 0.1, true],
  towing: [0.2, 0.3, 0.2, false],
  shortCold: [0.2, 0.4, 0.3, false],
}

/** On slicks a track asks more (estimates). */
const ON_SLICKS = [0.7, 1.4, 1.5] as const
const hardestOf = ({ duty }: Build, a: Activity) => (a === 'track' && duty.tyres === 'slicks' ? ON_SLICKS : HARDEST[a])

export type Tilt = {
  readonly name: 'launch' | 'braking' | 'a left-hander' | 'a right-hander'
  readonly g: number
  readonly sustained: boolean
  /** head that is left in the worst state above the oil that its end stands in, m of oil under plain gravity; below 0 oil stands still or runs up */
  readonly headM: number
}

/** What a drain has left in each way of driving that the build's duty holds. The axes are the car's: ahead, left, up (ISO 8855). */
export function tilts(build: Build, drain: BayDrain): readonly Tilt[] {
  const driven = ACTIVITIES.filter((a) => build.duty.hours[a] > 0)
  const column = drain.states.reduce((most, s) => Math.max(most, s.columnM), -Infinity)
  if (driven.length === 0 || !Number.isFinite(column)) return []
  const hardest = (k: 0 | 1 | 2) =>
    driven
      .map((a) => ({ g: hardestOf(build, a)[k], sustained: HARDEST[a][3] }))
      .reduce((most, x) => (x.g > most.g ? x : most))
  // oil stays behind: what it feels points against the acceleration
  const cases = [
    { name: 'launch', ...hardest(0), pull: [-1, 0] },
    { name: 'braking', ...hardest(1), pull: [1, 0] },
    { name: 'a left-hander', ...hardest(2), pull: [0, -1] },
    { name: 'a right-hander', ...hardest(2), pull: [0, 1] },
  ] as const
  return cases.map(({ name, g, sustained, pull }) => {
    const gravity = [pull[0] * g * GRAVITY, pull[1] * g * GRAVITY, -GRAVITY] as const
    const { fallM } = profileOf(drain.way, drain.line.boreMm / 1000, gravity)
    return { name, g, sustained, headM: fallM * Math.hypot(1, g) - drain.underM - column }
  })
}
