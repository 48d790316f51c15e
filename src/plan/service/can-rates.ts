/** What gathers in a can, by the model: on the whole duty, off the track, and in a session on it, through the months of its site. */
import { coldShare, TRACK_SESSION_HOURS, type Activity } from '@/core/service/rates'
import { climateOf } from '../catalogue/climates'
import type { Build } from '../document/schema'
import { hourly, NO_OIL, perMetre, TRACK_KM_PER_SESSION, type Hourly } from '../model/duty'
import type { DutyRates, Figures, SolvedState } from '../model/results'
import { daysByMonth } from './days'

export type CanRates = {
  /** per metre on the duty; nothing, and not known, where a state that it spends time in has no answer */
  readonly all: DutyRates
  readonly known: boolean
  readonly offTrack: DutyRates
  /** a session on track */
  readonly session: DutyRates
}

const NOTHING: DutyRates = { oil: 0, water: 0 }
type Worked = Pick<Figures, 'states' | 'waterAt'>

/** Oil and water that a can gathers in one weather of those worked out, at multipliers of 1 (methods 7). */
function ratesIn(build: Build, { states, waterAt }: Worked, can: string, weather: number): CanRates {
  const { warm, cold } = waterAt[weather]!
  const asked = new Map<Activity, Hourly | undefined>()
  const of = (a: Activity) => {
    if (!asked.has(a)) {
      const share = coldShare(a)
      const waterOf = (s: SolvedState) => (1 - share) * (warm[s.id]?.[can] ?? 0) + share * (cold[s.id]?.[can] ?? 0)
      asked.set(a, hourly(build, states, a, { oilOf: (s) => s.cans[can]?.caught ?? NO_OIL, waterOf }))
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

/** Rates with this water, in shares of those of two weathers; oil does not ask for the weather. */
const between = (a: CanRates, b: CanRates, share: number): CanRates => {
  const mixed = (of: (r: CanRates) => DutyRates): DutyRates => ({
    ...of(a),
    water: (1 - share) * of(a).water + share * of(b).water,
  })
  return {
    known: a.known,
    all: mixed((r) => r.all),
    offTrack: mixed((r) => r.offTrack),
    session: mixed((r) => r.session),
  }
}

/** Rates of a can by the weather and by the calendar, m3 a metre and m3 a track session. */
export type RatesByWeather = {
  /** with the outside air so warm, C */
  readonly at: (airC: number) => CanRates
  /** in a month of the site, 0 January; the same all year where nobody said what winters it sees */
  readonly inMonth: (month: number) => CanRates
  /** mean over the days from one to another, ISO dates */
  readonly during: (from: string, to: string) => CanRates
  /** whether months differ */
  readonly seasonal: boolean
}

/** Oil and water that a can gathers on each duty, at multipliers of 1 (methods 7), by the weather. */
export function canRates(build: Build, figures: Worked, can: string): RatesByWeather {
  const weather = figures.waterAt.map((w) => w.ambientC)
  const worked = weather.map((_, k) => ratesIn(build, figures, can, k))
  const at = (airC: number): CanRates => {
    const next = weather.findIndex((c) => c >= airC)
    if (next < 0) return worked.at(-1)!
    if (next === 0) return worked[0]!
    const share = (airC - weather[next - 1]!) / (weather[next]! - weather[next - 1]!)
    return between(worked[next - 1]!, worked[next]!, share)
  }
  const means = climateOf(build.site)?.means
  const months = Array.from({ length: 12 }, (_, m) => at(means?.[m] ?? build.site.ambientC))
  return {
    at,
    inMonth: (month) => months[month]!,
    during(from, to) {
      if (!means) return months[0]!
      const days = daysByMonth(from, to)
      let [sum, mean] = [0, months[0]!]
      for (const [m, d] of days.entries()) {
        if (d === 0) continue
        sum += d
        mean = sum === d ? months[m]! : between(mean, months[m]!, d / sum)
      }
      return mean
    },
    seasonal: means !== undefined,
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
