/** What gathers in a can, by the model: on the whole duty, off the track, and in a session on it. */
import { ACTIVITY_FACTS, TRACK_SESSION_HOURS, type Activity } from '@/core/service/rates'
import type { Build } from '../document/schema'
import type { DutyRates, Figures } from '../model/results'
import { hourly, NO_OIL, perMetre, TRACK_KM_PER_SESSION, type Hourly } from '../model/duty'

export type CanRates = {
  /** per metre on the duty; nothing, and not known, where a state that it spends time in has no answer */
  readonly all: DutyRates
  readonly known: boolean
  readonly offTrack: DutyRates
  /** a session on track */
  readonly session: DutyRates
}

const NOTHING: DutyRates = { oil: 0, water: 0 }

/** Oil and water that a can gathers on each duty, m3 a metre and m3 a track session, at multipliers of 1 (methods 7). */
export function canRates(
  build: Build,
  { states, coldWater }: Pick<Figures, 'states' | 'coldWater'>,
  can: string,
): CanRates {
  const asked = new Map<Activity, Hourly | undefined>()
  const of = (a: Activity) => {
    if (!asked.has(a)) {
      const cold = ACTIVITY_FACTS[a].colder > 0
      asked.set(
        a,
        hourly(build, states, a, {
          oilOf: (s) => s.cans[can]?.caught ?? NO_OIL,
          waterOf: (s) => (cold ? coldWater[s.id]?.[can] : s.cans[can]?.waterCaught) ?? 0,
        }),
      )
    }
    return asked.get(a)
  }
  const all = perMetre(build, of)
  const track = of('track')
  return {
    all: all ?? NOTHING,
    known: all !== undefined,
    offTrack: perMetre(build, of, ['track']) ?? NOTHING,
    session: track
      ? {
          oil: track.oil * TRACK_SESSION_HOURS,
          water: track.water * TRACK_SESSION_HOURS,
          track: track.oil * TRACK_SESSION_HOURS,
        }
      : NOTHING,
  }
}

/** What the model would have gathered over so many metres, the sessions among them told apart where they were noted. */
export function predictedFor(
  { all, offTrack, session }: CanRates,
  metres: number,
  sessions: number | undefined,
): DutyRates {
  if (sessions === undefined)
    return { oil: all.oil * metres, water: all.water * metres, track: (all.track ?? 0) * metres }
  const road = Math.max(0, metres - sessions * TRACK_KM_PER_SESSION * 1000)
  const track = session.oil * sessions
  return { oil: offTrack.oil * road + track, water: offTrack.water * road + session.water * sessions, track }
}
