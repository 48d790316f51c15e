/** What gathers in each can over the build's use, and what its log has taught. */
import { differenceInCalendarDays, addDays, lightFormat } from 'date-fns'
import { gathered, untilFull } from '@/core/service/fill'
import {
  BLANK,
  learn,
  nextFilling,
  WET_WALL_M3,
  type Amount,
  type Emptying,
  type Learned,
  type Multiplier,
  type Prior,
} from '@/core/service/learn'
import { ACTIVITY_FACTS, TRACK_SESSION_HOURS, type Activity } from '@/core/service/rates'
import { STEP_ODDS, stepUp } from '@/core/service/trend'
import { toSi } from '@/core/units/units'
import type { Build, LogEntry, Variant } from '../document/schema'
import { neverDrains } from '../bay/drains'
import { activeVariant } from '../edit/edit'
import type { CanForecast, DutyRates, Figures } from '../model/results'
import { calibrationOf, MOST_LEARNED } from './calibration'
import { hourly, NO_OIL, perMetre, TRACK_KM_PER_SESSION } from './duty'

/** A day of the calendar as this machine's own midnight. */
const midnight = (iso: string): Date =>
  new Date(Number(iso.slice(0, 4)), Number(iso.slice(5, 7)) - 1, Number(iso.slice(8, 10)))

/**
 * What was driven between two entries of a can, as the model would have filled it: told sessions apart from the rest
 * when they were noted.
 */
function predictedFor(
  metres: number,
  sessions: number | undefined,
  all: DutyRates,
  offTrack: DutyRates,
  session: DutyRates,
): DutyRates {
  if (sessions === undefined)
    return { oil: all.oil * metres, water: all.water * metres, track: (all.track ?? 0) * metres }
  const road = Math.max(0, metres - sessions * TRACK_KM_PER_SESSION * 1000)
  const track = session.oil * sessions
  return { oil: offTrack.oil * road + track, water: offTrack.water * road + session.water * sessions, track }
}

/**
 * What an emptying says: told apart or all together, or only that the bowl was full or had run over, or that there was
 * nothing to measure.
 */
function saidBy(e: LogEntry, predicted: DutyRates, bowlM3: number): Emptying {
  const ml = (v: number) => toSi('volume', v, 'ml')
  const all = ml(e.ml ?? 0)
  if (e.seen === 'overflowed' || all >= bowlM3) return { predicted, all: { atLeast: Math.max(all, bowlM3) } }
  if (e.seen === 'dry' || all === 0) return { predicted, all: { atMost: WET_WALL_M3 } }
  if (e.waterMl === undefined) return { predicted, all: { found: all } }
  const amount = (v: number): Amount => (v <= 0 ? { atMost: WET_WALL_M3 } : { found: v })
  return { predicted, oil: amount(all - ml(e.waterMl)), water: amount(ml(e.waterMl)) }
}

/** Oil and water of what came out, for showing it: as told apart, else split as the model would have it. */
function split(e: LogEntry, predicted: DutyRates, bowlM3: number): DutyRates {
  const all = e.ml === undefined && e.seen === 'overflowed' ? bowlM3 : toSi('volume', e.ml ?? 0, 'ml')
  const water =
    e.waterMl !== undefined
      ? toSi('volume', e.waterMl, 'ml')
      : (all * predicted.water) / Math.max(predicted.oil + predicted.water, 1e-12)
  return { oil: all - water, water }
}

/** What an engine's oil and water have been found to be with another of its plans: most of that is the engine's, some the plan's. */
/** spread that changing the plan adds to what was learned (estimate) */
const CARRIED_SIGMA = 0.3

/** The plan on the engine when an entry was made. */
const planOf = (build: Build, e: LogEntry): string => e.plan ?? build.variants[0]!.id

/** Another plan of the build whose log says something, where this one's says nothing. */
function loggedElsewhere(build: Build, variant: Variant): string | undefined {
  const emptied = build.log.filter((e) => e.kind === 'emptied' && build.variants.some((v) => v.id === planOf(build, e)))
  if (emptied.some((e) => planOf(build, e) === variant.id)) return undefined
  const last = emptied.at(-1)
  return last && planOf(build, last)
}

/** From the forecasts of that other plan: the best known can's multipliers, a little wider. */
function carriedOver(cans: readonly CanForecast[]): Prior | undefined {
  const best = cans
    .filter((c) => c.multiplier.entries > 0)
    .toSorted((a, b) => b.multiplier.entries - a.multiplier.entries)[0]
  const wider = (m: Multiplier) => ({ mu: m.mu, sigma: Math.hypot(m.sigma, CARRIED_SIGMA) })
  return (
    best && {
      oil: wider(best.multiplier),
      water: best.waterMultiplier.entries > 0 ? wider(best.waterMultiplier) : BLANK.water,
    }
  )
}

/**
 * Every can of the active plan as of `today`. What another plan of this engine has taught stands in while this one's log says nothing:
 * `figuresOf` works that one out.
 */
export function forecasts(
  build: Build,
  figures: Figures,
  today: string,
  figuresOf: (build: Build) => Figures,
): readonly CanForecast[] {
  const other = loggedElsewhere(build, activeVariant(build))
  const there = other === undefined ? undefined : { ...build, active: other }
  const learned = there && carriedOver(cansOf(there, figuresOf(there), today))
  return cansOf(build, figures, today, learned)
}

function cansOf(build: Build, { states, coldWater }: Figures, today: string, learned?: Prior): CanForecast[] {
  const variant = activeVariant(build)
  return variant.parts.flatMap((part) => {
    // a separator that drains back never fills, unless the bay says that it never drains
    if (part.kind !== 'can' || (part.drain && !neverDrains(build, variant, states, part.id))) return []
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
      ? {
          oil: track.oil * TRACK_SESSION_HOURS,
          water: track.water * TRACK_SESSION_HOURS,
          track: track.oil * TRACK_SESSION_HOURS,
        }
      : { oil: 0, water: 0 }
    const rates = all ?? { oil: 0, water: 0 }

    const bowlM3 = toSi('volume', part.bowlMl, 'ml')
    // in the order in which it was driven, however the log arrived
    const onPlan = build.log
      .filter((e) => planOf(build, e) === variant.id)
      .toSorted((x, y) => x.odometerKm - y.odometerKm)
    const mine = onPlan.filter((e) => e.part === part.id && (e.kind === 'fitted' || e.kind === 'emptied'))
    // sessions that were ticked one by one, up to each entry
    let sessions = 0
    const before = new Map(onPlan.map((e) => [e, e.kind === 'session' ? sessions++ : sessions]))
    const ticked = (from: LogEntry | undefined, to?: LogEntry) => {
      const n = (to ? before.get(to)! : sessions) - (from ? before.get(from)! : 0)
      return n === 0 ? undefined : n
    }
    const said: Emptying[] = []
    const history: CanForecast['history'][number][] = []
    let emptyAt: number | undefined
    let emptied: LogEntry | undefined
    let tellsTrack = false
    for (const e of mine) {
      const at = e.odometerKm * 1000
      if (e.kind === 'emptied' && emptyAt !== undefined && at >= emptyAt) {
        const driven = e.sessions ?? ticked(emptied, e)
        tellsTrack ||= driven !== undefined
        const predicted = predictedFor(at - emptyAt, driven, rates, offTrack, session)
        said.push(saidBy(e, predicted, bowlM3))
        history.push({ id: e.id, date: e.date, found: split(e, predicted, bowlM3), predicted, metres: at - emptyAt })
      }
      emptyAt = at
      emptied = e
    }
    // what an engine did years ago says little of it now
    // a can that was looked into and left: what it held then is known better than what the road says of it
    const look = emptyAt === undefined ? undefined : lookedInto(onPlan.slice(onPlan.indexOf(emptied!) + 1), part.id)
    if (look && emptyAt !== undefined) {
      const driven = ticked(emptied, look.entry)
      tellsTrack ||= driven !== undefined
      said.push(saidBy(look.entry, predictedFor(look.at - emptyAt, driven, rates, offTrack, session), bowlM3))
    }
    // road and track are told apart once a filling says how many sessions it took
    const fillings = tellsTrack ? said : said.map(alike)
    const known = learn(fillings.slice(-MOST_LEARNED), learned)
    const rateOf = (r: DutyRates) => nextFilling(known, r)
    const rate = rateOf(rates)
    // all together: most logs tell oil and water not apart, and rings show in both
    const step = stepUp(
      history.map((h) => ({ found: h.found.oil + h.found.water, predicted: h.predicted.oil + h.predicted.water })),
    )
    const last = build.log[build.log.length - 1]
    const perDay = (build.duty.kmPerYear * 1000) / 365.25
    const days = last ? Math.max(0, differenceInCalendarDays(midnight(today), midnight(last.date))) : 0
    const odometerNow = Math.max(...build.log.map((e) => e.odometerKm), 0) * 1000 + days * perDay
    const from = look?.at ?? emptyAt
    const since = from === undefined ? 0 : odometerNow - from
    const heldThen = look?.held ?? 0
    const distance = untilFull(rate, bowlM3)
    const sessionsSince = emptied ? (ticked(emptied) ?? 0) : 0
    const sessionsAfter = (look ? ticked(look.entry) : sessionsSince) ?? 0
    // what was driven since, its ticked sessions told apart from the road
    const after = predictedFor(since, sessionsAfter > 0 ? sessionsAfter : undefined, rates, offTrack, session)
    const more = sessionsAfter > 0 ? rateOf(after) : gathered(rate, since)
    const now = { low: heldThen + more.low, mid: heldThen + more.mid, high: heldThen + more.high }
    const checkBy = (from ?? odometerNow) + untilFull(rate, bowlM3 - heldThen).low
    const daysLeft = (checkBy - odometerNow) / perDay
    return [
      {
        part: part.id,
        name: part.name,
        bowlM3,
        perMetre: rates,
        perSession: session,
        multiplier: known.oil,
        waterMultiplier: known.water,
        trackMultiplier: known.track,
        oilTimes: timesOn(rates, known),
        carried: learned !== undefined,
        rising: step && step.odds >= STEP_ODDS ? { odds: step.odds, since: history[step.from]!.date } : undefined,
        emptyAt,
        look: look && { at: look.at, held: look.held },
        odometerNow,
        now,
        sessionsSince,
        calibration: calibrationOf(fillings, learned, history),
        distance,
        sessions: untilFull(rateOf(session), bowlM3),
        checkBy,
        checkDate:
          Number.isFinite(daysLeft) && daysLeft < 3660
            ? lightFormat(addDays(midnight(today), Math.floor(daysLeft)), 'yyyy-MM-dd')
            : undefined,
        known: all !== undefined,
        history,
      },
    ]
  })
}

/** The last look into a can that was not emptied then, with what it held, m3, and the odometer, m. */
function lookedInto(
  since: readonly LogEntry[],
  part: string,
): { entry: LogEntry; at: number; held: number } | undefined {
  const entry = since.findLast((e) => e.kind === 'checked' && e.part === part && e.ml !== undefined)
  return entry && { entry, at: entry.odometerKm * 1000, held: toSi('volume', entry.ml!, 'ml') }
}

/** A filling of which nobody says what was track. */
const alike = (e: Emptying): Emptying => ({ ...e, predicted: { oil: e.predicted.oil, water: e.predicted.water } })

/** Oil over the model's on a duty, by the middle of what was learned of its road and its track. */
function timesOn({ oil, track = 0 }: DutyRates, { oil: road, track: hard }: Pick<Learned, 'oil' | 'track'>): number {
  const share = oil > 0 ? track / oil : 0
  return (1 - share) * Math.exp(road.mu) + share * Math.exp((hard ?? road).mu)
}

/** What the cans have taught of the engine's oil, as a factor: the one that knows most speaks for what passes them too. */
export function learnedOil(cans: readonly CanForecast[]): number {
  const best = cans.toSorted((a, b) => a.multiplier.sigma - b.multiplier.sigma)[0]
  return best && (best.multiplier.entries > 0 || best.carried) ? best.oilTimes : 1
}
