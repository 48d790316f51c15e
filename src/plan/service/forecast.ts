/** What gathers in each can over the build's use, and what its log has taught. */
import { gathered, untilFull } from '@/core/service/fill'
import { BLANK, learn, type Learned, type Multiplier, type Prior } from '@/core/service/learn'
import { STEP_ODDS, stepUp } from '@/core/service/trend'
import { toSi } from '@/core/units/units'
import type { Build, PartOf, Variant } from '../document/schema'
import { neverDrains } from '../bay/drains'
import { activeVariant } from '../edit/edit'
import type { Evaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import type { CanForecast, DutyRates, Figures } from '../model/results'
import { calibrationOf, MOST_LEARNED } from './calibration'
import { planOf, readCanLog } from './can-log'
import { canRates, predictedFor } from './can-rates'

const DAY_MS = 24 * 3600 * 1000
/** Days of the calendar, counted where no clock is ever put back. */
const dayNumber = (iso: string): number => Date.parse(iso) / DAY_MS
const dayOf = (number: number): string => new Date(number * DAY_MS).toISOString().slice(0, 10)

/** What an engine's oil and water have been found to be with another of its plans: most of that is the engine's, some the plan's. */
/** spread that changing the plan adds to what was learned (estimate) */
const CARRIED_SIGMA = 0.3

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
 * Every can of the active plan as of `today`. What another plan of this engine has taught stands in while this one's log says nothing.
 */
export function forecasts(build: Build, figures: Figures, today: string, evaluator: Evaluator): readonly CanForecast[] {
  const other = loggedElsewhere(build, activeVariant(build))
  const there = other === undefined ? undefined : { ...build, active: other }
  const learned = there && carriedOver(cansOf({ build: there, figures: figuresOf(there, evaluator), today, evaluator }))
  return cansOf({ build, figures, today, evaluator, learned })
}

/** A worked build as of a day, and what its cans are known by while their own logs say nothing. */
type AsOf = {
  readonly build: Build
  readonly figures: Figures
  readonly today: string
  readonly evaluator: Evaluator
  readonly learned?: Prior | undefined
}

function cansOf(asOf: AsOf): CanForecast[] {
  const { build, figures } = asOf
  const variant = activeVariant(build)
  return variant.parts.flatMap((part) =>
    // a separator that drains back never fills, unless the bay says that it never drains
    part.kind !== 'can' || (part.drain && !neverDrains(build, variant, figures.states, part.id))
      ? []
      : [forecastOf(asOf, part)],
  )
}

function forecastOf({ build, figures, today, evaluator, learned }: AsOf, can: PartOf<'can'>): CanForecast {
  const bowlM3 = toSi('volume', can.bowlMl, 'ml')
  const rates = canRates(build, figures, can.id)
  const log = readCanLog(build, { plan: activeVariant(build).id, can: can.id, bowlM3 }, rates)
  // what an engine did years ago says little of it now
  const fillings = log.fillings.slice(-MOST_LEARNED)
  const known = fillings.length === 0 && !learned ? evaluator.unlearned() : learn(fillings, learned)
  const rateOf = (r: DutyRates) => evaluator.nextFilling(known, r)
  const rate = rateOf(rates.all)
  // all together: most logs tell oil and water not apart, and rings show in both
  const step = stepUp(
    log.history.map((h) => ({ found: h.found.oil + h.found.water, predicted: h.predicted.oil + h.predicted.water })),
  )
  const { odometerNow, perDay } = drivenBy(build, today)
  const from = log.look?.at ?? log.emptyAt
  const since = from === undefined ? 0 : odometerNow - from
  const heldThen = log.look?.held ?? 0
  // what was driven since, its ticked sessions told apart from the road
  const more = log.sessionsAfter > 0 ? rateOf(predictedFor(rates, since, log.sessionsAfter)) : gathered(rate, since)
  const checkBy = (from ?? odometerNow) + untilFull(rate, bowlM3 - heldThen).low
  const daysLeft = (checkBy - odometerNow) / perDay
  return {
    part: can.id,
    name: can.name,
    bowlM3,
    perMetre: rates.all,
    perSession: rates.session,
    multiplier: known.oil,
    waterMultiplier: known.water,
    trackMultiplier: known.track,
    oilTimes: timesOn(rates.all, known),
    carried: learned !== undefined,
    rising: step && step.odds >= STEP_ODDS ? { odds: step.odds, since: log.history[step.from]!.date } : undefined,
    emptyAt: log.emptyAt,
    look: log.look,
    odometerNow,
    now: { low: heldThen + more.low, mid: heldThen + more.mid, high: heldThen + more.high },
    sessionsSince: log.sessionsSince,
    calibration: calibrationOf(log.fillings, learned, log.history, evaluator),
    distance: untilFull(rate, bowlM3),
    sessions: untilFull(rateOf(rates.session), bowlM3),
    checkBy,
    checkDate:
      Number.isFinite(daysLeft) && daysLeft < 3660 ? dayOf(dayNumber(today) + Math.floor(daysLeft)) : undefined,
    known: rates.known,
    history: log.history,
  }
}

/** Odometer in m as of a day, from the log's last reading on at the build's yearly distance; and m a day. */
function drivenBy({ log, duty }: Build, today: string): { readonly odometerNow: number; readonly perDay: number } {
  const perDay = (duty.kmPerYear * 1000) / 365.25
  const last = log.at(-1)
  const days = last ? Math.max(0, dayNumber(today) - dayNumber(last.date)) : 0
  const read = log.reduce((most, e) => Math.max(most, e.odometerKm), 0)
  return { odometerNow: read * 1000 + days * perDay, perDay }
}

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
