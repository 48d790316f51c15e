/** What gathers in each can over the build's use, and what its log has taught. */
import { differenceInCalendarDays, addDays, formatISO, parseISO } from 'date-fns'
import { calibrate, PRIOR_SIGMA, risingTrend, type Multiplier } from '@/core/service/calibrate'
import { gathered, rateRange, untilFull } from '@/core/service/fill'
import { ACTIVITY_FACTS, TRACK_SESSION_HOURS, type Activity } from '@/core/service/rates'
import { toSi } from '@/core/units/units'
import type { Build, LogEntry, Variant } from '../document/schema'
import { activeVariant } from '../edit/edit'
import type { CanForecast, DutyRates, Figures } from '../model/results'
import { hourly, NO_OIL, perMetre, TRACK_KM_PER_SESSION } from './duty'

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
type Learned = {
  readonly oil: Pick<Multiplier, 'mu' | 'sigma'>
  readonly water: Pick<Multiplier, 'mu' | 'sigma'>
}
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
function carriedOver(cans: readonly CanForecast[]): Learned | undefined {
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

function cansOf(build: Build, { states, coldWater }: Figures, today: string, learned?: Learned): CanForecast[] {
  const variant = activeVariant(build)
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
