/** From rates in each state to what gathers in each can over the build's use, and what its log has taught. */
import { differenceInCalendarDays, addDays, formatISO, parseISO } from 'date-fns'
import type { StateId } from '@/core/engine/states'
import { OIL_POURED, WATER_POURED } from '@/core/gas/oil'
import type { Oil } from '@/core/separation/carriage'
import { corneringFactor } from '@/core/separation/source'
import { calibrate, PRIOR_SIGMA, risingTrend, type Multiplier } from '@/core/service/calibrate'
import { gathered, rateRange, untilFull } from '@/core/service/fill'
import { ACTIVITIES, ACTIVITY_FACTS, stateShare, TRACK_SESSION_HOURS, type Activity } from '@/core/service/rates'
import { toSi } from '@/core/units/units'
import type { CanForecast, DutyRates, SolvedState, StateResult } from '../model/results'
import { activeVariant } from '../edit/edit'
import { pickUpOf } from '../model/states'
import { isIntake } from '../document/kinds'
import type { Build, LogEntry, Variant } from '../document/schema'

const HOUR = 3600
const TRACK_KM_PER_SESSION = ACTIVITY_FACTS.track.kmPerHour * TRACK_SESSION_HOURS

type Hourly = { oil: number; water: number }

/** m3 per hour of an activity, from what each state yields; undefined when a state that it spends time in has no answer. */
function hourly(
  build: Build,
  states: readonly StateResult[],
  activity: Activity,
  oilOf: (s: SolvedState) => Oil,
  waterOf: (s: SolvedState) => number,
): Hourly | undefined {
  const present = states.map((s) => s.id)
  const cornering = corneringFactor(pickUpOf(build, activeVariant(build)), ACTIVITY_FACTS[activity].splash)
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
function perMetre(
  build: Build,
  of: (a: Activity) => Hourly | undefined,
  without: readonly Activity[] = [],
): DutyRates | undefined {
  let oil = 0
  let water = 0
  let km = 0
  for (const a of ACTIVITIES) {
    const hours = without.includes(a) ? 0 : build.duty.hours[a]
    if (hours === 0) continue
    const rate = of(a)
    if (!rate) return undefined
    oil += hours * rate.oil
    water += hours * rate.water
    km += hours * ACTIVITY_FACTS[a].kmPerHour
  }
  return km > 0 ? { oil: oil / (km * 1000), water: water / (km * 1000) } : { oil: 0, water: 0 }
}

export function metresPerHour(build: Build): number {
  const hours = ACTIVITIES.reduce((s, a) => s + build.duty.hours[a], 0)
  return (ACTIVITIES.reduce((s, a) => s + build.duty.hours[a] * ACTIVITY_FACTS[a].kmPerHour, 0) * 1000) / hours
}

const NO_OIL: Oil = { mist: 0, splash: 0 }

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
  return perMetre(build, (a) => hourly(build, states, a, oilOf, () => 0))?.oil ?? 0
}

/** What was driven between two entries of a can, as the model would have filled it: told sessions apart from the rest when they were noted. */
function predictedFor(
  metres: number,
  sessions: number | undefined,
  all: DutyRates,
  offTrack: DutyRates,
  session: DutyRates,
): DutyRates {
  if (sessions === undefined) return { oil: all.oil * metres, water: all.water * metres }
  const road = Math.max(0, metres - sessions * TRACK_KM_PER_SESSION * 1000)
  return { oil: offTrack.oil * road + session.oil * sessions, water: offTrack.water * road + session.water * sessions }
}

/** Oil and water of what came out: as told apart, else split as the model would have it. */
function split(e: LogEntry, predicted: DutyRates): DutyRates {
  const all = toSi('volume', e.ml ?? 0, 'ml')
  const water =
    e.waterMl !== undefined
      ? toSi('volume', e.waterMl, 'ml')
      : (all * predicted.water) / Math.max(predicted.oil + predicted.water, 1e-12)
  return { oil: all - water, water }
}

/** What an engine's oil and water have been found to be with another of its plans: most of that is the engine's, some the plan's. */
export type Learned = {
  readonly oil: Pick<Multiplier, 'mu' | 'sigma'>
  readonly water: Pick<Multiplier, 'mu' | 'sigma'>
}
/** spread that changing the plan adds to what was learned (estimate) */
const CARRIED_SIGMA = 0.3

/** The plan on the engine when an entry was made. */
const planOf = (build: Build, e: LogEntry): string => e.plan ?? build.variants[0]!.id

/** Another plan of the build whose log says something, where this one's says nothing. */
export function loggedElsewhere(build: Build, variant: Variant): string | undefined {
  const emptied = build.log.filter((e) => e.kind === 'emptied' && build.variants.some((v) => v.id === planOf(build, e)))
  if (emptied.some((e) => planOf(build, e) === variant.id)) return undefined
  const last = emptied.at(-1)
  return last && planOf(build, last)
}

/** From the forecasts of that other plan: the best known can's multipliers, a little wider. */
export function carriedOver(cans: readonly CanForecast[]): Learned | undefined {
  const best = cans
    .filter((c) => c.multiplier.entries > 0)
    .toSorted((a, b) => b.multiplier.entries - a.multiplier.entries)[0]
  const wider = (m: Multiplier) => ({ mu: m.mu, sigma: Math.hypot(m.sigma, CARRIED_SIGMA) })
  return (
    best && {
      oil: wider(best.multiplier),
      water: best.waterMultiplier.entries > 0 ? wider(best.waterMultiplier) : { mu: 0, sigma: PRIOR_SIGMA },
    }
  )
}

export function canForecasts(
  build: Build,
  variant: Variant,
  states: readonly StateResult[],
  coldWater: Readonly<Record<StateId, Readonly<Record<string, number>>>>,
  today: string,
  learned?: Learned,
): CanForecast[] {
  return variant.parts.flatMap((part) => {
    // a separator that drains back never fills
    if (part.kind !== 'can' || part.drain) return []
    const of = (a: Activity) =>
      hourly(
        build,
        states,
        a,
        (s) => s.cans[part.id]?.caught ?? NO_OIL,
        (s) => (ACTIVITY_FACTS[a].colder > 0 ? coldWater[s.id]?.[part.id] : s.cans[part.id]?.waterCaught) ?? 0,
      )
    const all = perMetre(build, of)
    const offTrack = perMetre(build, of, ['track']) ?? { oil: 0, water: 0 }
    const track = of('track')
    const session: DutyRates = track
      ? { oil: track.oil * TRACK_SESSION_HOURS, water: track.water * TRACK_SESSION_HOURS }
      : { oil: 0, water: 0 }
    const rates = all ?? { oil: 0, water: 0 }

    const mine = build.log.filter(
      (e) => e.part === part.id && planOf(build, e) === variant.id && (e.kind === 'fitted' || e.kind === 'emptied'),
    )
    const history: CanForecast['history'][number][] = []
    let emptyAt: number | undefined
    for (const e of mine) {
      const at = e.odometerKm * 1000
      if (e.kind === 'emptied' && emptyAt !== undefined && at >= emptyAt) {
        const predicted = predictedFor(at - emptyAt, e.sessions, rates, offTrack, session)
        history.push({ id: e.id, date: e.date, found: split(e, predicted), predicted, metres: at - emptyAt })
      }
      emptyAt = at
    }
    const oilHistory = history.map((h) => ({ found: h.found.oil, predicted: h.predicted.oil }))
    const multiplier = calibrate(oilHistory, learned?.oil)
    const waterMultiplier = calibrate(
      history.map((h) => ({ found: h.found.water, predicted: h.predicted.water })),
      learned?.water,
    )
    const rateOf = (r: DutyRates) => rateRange({ ...r, oilMultiplier: multiplier, waterMultiplier })
    const rate = rateOf(rates)
    const last = build.log[build.log.length - 1]
    const perDay = (build.duty.kmPerYear * 1000) / 365.25
    const days = last ? Math.max(0, differenceInCalendarDays(parseISO(today), parseISO(last.date))) : 0
    const odometerNow = Math.max(...build.log.map((e) => e.odometerKm), 0) * 1000 + days * perDay
    const bowlM3 = toSi('volume', part.bowlMl, 'ml')
    const since = emptyAt === undefined ? 0 : odometerNow - emptyAt
    const distance = untilFull(rate, bowlM3)
    const checkBy = (emptyAt ?? odometerNow) + distance.low
    const daysLeft = (checkBy - odometerNow) / perDay
    return [
      {
        part: part.id,
        name: part.name,
        bowlM3,
        perMetre: rates,
        perSession: session,
        multiplier,
        waterMultiplier,
        carried: learned !== undefined,
        rising: risingTrend(oilHistory),
        emptyAt,
        odometerNow,
        now: gathered(rate, since),
        distance,
        sessions: untilFull(rateOf(session), bowlM3),
        checkBy,
        checkDate:
          Number.isFinite(daysLeft) && daysLeft < 3660
            ? formatISO(addDays(parseISO(today), Math.floor(daysLeft)), { representation: 'date' })
            : undefined,
        known: all !== undefined,
        history,
      },
    ]
  })
}
