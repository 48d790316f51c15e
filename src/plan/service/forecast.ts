/** What gathers in each can over the build's use, and what its log has taught. */
import { accumulated, untilFull } from '@/core/service/fill'
import { learn, type Learned } from '@/core/service/learn'
import { BLANK, DUTIES_ALIKE, type Multiplier, type Prior } from '@/core/service/prior'
import { roadHours } from '@/core/service/rates'
import { weakMemo } from '@/core/weak-memo'
import { toSi } from '@/core/units/units'
import type { Build, PartOf, Variant } from '../document/schema'
import { neverDrains } from '../bay/drains'
import { activeVariant } from '../edit/edit'
import { TRACK_KM_PER_SESSION } from '../model/duty'
import type { Evaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import type { LookRequest, CanChange, CanForecast, DutyRates, Figures, ForecastCheck } from '../model/results'
import { calibrationOf, MOST_LEARNED } from './calibration'
import { planOf, readCanLog, type CanLog } from './can-log'
import { canRates, predictedFor, type RatesByWeather } from './can-rates'
import { dayNumber, dayOf } from './days'
import { fillingFrom } from './filling'
import { priorOfCan } from './kind-prior'

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

const wider = (m: Multiplier) => ({ mu: m.mu, sigma: Math.hypot(m.sigma, CARRIED_SIGMA) })

/** From the forecasts of that other plan: the best known can's multipliers, a little wider. */
function carriedOver(cans: readonly CanForecast[]): Prior | undefined {
  const best = cans
    .filter((c) => c.multiplier.entries > 0)
    .toSorted((a, b) => b.multiplier.entries - a.multiplier.entries)[0]
  return (
    best && {
      oil: wider(best.multiplier),
      water: best.waterMultiplier.entries > 0 ? wider(best.waterMultiplier) : BLANK.water,
      ...(best.trackMultiplier ? { track: wider(best.trackMultiplier) } : {}),
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

/** Odds from which a change is spoken of. */
const CHANGE_ODDS = 1
/** Share of intervals that stray as far, below which an emptying is said to count for little. */
const DOUBTED = 1 / 40
/** Distance after which what is new is looked into first, m; on track after the first session (common practice, no source). */
export const FIRST_LOOK = 300_000

/**
 * What is known before the log speaks: on track more may be off than on the road. What a filling holds of both, not told apart, has a spread
 * between theirs.
 */
function mixedPrior(build: Build, prior: Prior, { oil, track = 0 }: DutyRates): Prior {
  const share = roadHours(build.duty.hours) === 0 ? 1 : oil > 0 ? track / oil : 0
  const onTrack = prior.track ?? prior.oil
  const [road, hard] = [(1 - share) * prior.oil.sigma, share * onTrack.sigma]
  return {
    ...prior,
    oil: {
      mu: (1 - share) * prior.oil.mu + share * onTrack.mu,
      sigma: Math.sqrt(road * road + hard * hard + 2 * DUTIES_ALIKE * road * hard),
    },
  }
}

/** What a can is known by: its log, its rates, and what was known before. */
type CanKnowledge = {
  readonly bowlM3: number
  readonly rates: RatesByWeather
  readonly log: CanLog
  readonly prior: Prior
  /** what was known before all that its log tells */
  readonly before: Prior
  readonly startsFrom: CanForecast['startsFrom']
  /** whether the prior is more than estimates */
  readonly hasLearned: boolean
}

function knowledgeOf({ build, figures, learned }: AsOf, can: PartOf<'can'>): CanKnowledge {
  const bowlM3 = toSi('volume', can.bowlMl, 'ml')
  const rates = canRates(build, figures, can.id)
  const log = readCanLog(build, { plan: activeVariant(build).id, can: can.id, bowlM3 }, rates)
  const logsTrack = [...log.fillings, ...log.earlier].some((e) => (e.predicted.track ?? 0) > 0)
  const expected = priorOfCan(build, activeVariant(build), can.id)
  const before = learned ?? (logsTrack ? expected : mixedPrior(build, expected, rates.inMonth(0).all))
  const startsFrom = learned ? 'other plan' : expected === BLANK ? 'estimates' : 'kind'
  const known = { bowlM3, rates, log, before, startsFrom } as const
  if (log.earlier.length === 0) return { ...known, prior: before, hasLearned: startsFrom !== 'estimates' }
  // work on the engine: what was learned before it still says something
  const { oil, water, track } = learn(log.earlier.slice(-MOST_LEARNED), before)
  const prior = { oil: wider(oil), water: wider(water), ...(track ? { track: wider(track) } : {}) }
  return { ...known, prior, hasLearned: true }
}

const learnedFrom = ({ log, prior, hasLearned }: CanKnowledge, evaluator: Evaluator): Learned =>
  log.fillings.length === 0 && !hasLearned
    ? evaluator.unlearned(prior.oil.sigma)
    : learn(log.fillings.slice(-MOST_LEARNED), prior)

/** Emptyings that say something of the engine: not those of a fault that was mended. */
const withoutFaulty = ({ history }: Pick<CanLog, 'history'>): CanForecast['history'] =>
  history.filter((h) => !h.ofFault)

/** How well each filling of a can was forecast by what the log had taught before it. */
export function forecastChecks(
  build: Build,
  figures: Figures,
  can: PartOf<'can'>,
  evaluator: Evaluator,
): readonly ForecastCheck[] {
  const { log, prior } = knowledgeOf({ build, figures, today: '', evaluator }, can)
  return calibrationOf(log.fillings, prior, withoutFaulty(log).slice(log.earlier.length), evaluator)
}

function forecastOf(asOf: AsOf, can: PartOf<'can'>): CanForecast {
  const { build, today, evaluator } = asOf
  const knowledge = knowledgeOf(asOf, can)
  const { bowlM3, rates, log } = knowledge
  const known = learnedFrom(knowledge, evaluator)
  // the same rates are asked about for now, for the bowl and for the next look
  const rateOf = weakMemo((r: DutyRates) => evaluator.nextFilling(known, r))
  const { odometerNow, perDay } = drivenBy(build, today)
  const from = log.look?.at ?? log.emptyAt
  const since = from === undefined ? 0 : odometerNow - from
  const begun = log.look?.date ?? log.emptyOn ?? today
  const heldThen = log.look?.held ?? 0
  const after = fillingFrom(rates, { from: begun, today, metres: since, perDay })
  const whole = log.look
    ? fillingFrom(rates, {
        from: log.emptyOn ?? today,
        today,
        metres: odometerNow - (log.emptyAt ?? odometerNow),
        perDay,
      })
    : after
  // what was driven since, its ticked sessions told apart from the road
  const lately = rates.during(begun, today)
  const more =
    log.sessionsAfter > 0
      ? rateOf(predictedFor(lately, since, log.sessionsAfter))
      : accumulated(rateOf(lately.all), since)
  const distance = whole.untilFull(bowlM3, rateOf)
  const empty = log.emptyAt ?? odometerNow
  const looks = looksAsked(asOf, log, {
    now: odometerNow,
    forecast: { from: from ?? odometerNow, metres: after.untilFull(bowlM3 - heldThen, rateOf).low },
    ranOver: { from: empty, metres: log.ranOver === undefined ? Infinity : whole.metresTo(log.ranOver) },
  })
  const look = looks.reduce<LookRequest>((least, x) => (x.from + x.metres < least.from + least.metres ? x : least), {
    reason: 'forecast',
    from: 0,
    metres: Infinity,
  })
  const checkBy = look.from + look.metres
  const daysLeft = (checkBy - odometerNow) / perDay
  const ahead = rates.during(today, dayOf(dayNumber(today) + Math.min(730, distance.mid / Math.max(perDay, 1))))
  return {
    part: can.id,
    name: can.name,
    bowlM3,
    perMetre: ahead.all,
    perSession: ahead.session,
    multiplier: known.oil,
    waterMultiplier: known.water,
    trackMultiplier: known.track,
    oilTimes: timesOn(ahead.all, known),
    startsFrom: knowledge.startsFrom,
    before: knowledge.before,
    ...strangenessOf(known, log),
    emptyAt: log.emptyAt,
    look: log.look,
    odometerNow,
    now: { low: heldThen + more.low, mid: heldThen + more.mid, high: heldThen + more.high },
    sessionsSince: log.sessionsSince,
    distance,
    sessions: untilFull(rateOf(ahead.session), bowlM3),
    checkBy,
    checkReason: look.reason,
    looks,
    checkDate:
      Number.isFinite(daysLeft) && daysLeft < 3660 ? dayOf(dayNumber(today) + Math.floor(daysLeft)) : undefined,
    known: ahead.known,
    history: log.history,
  }
}

type LookForecast = Pick<LookRequest, 'from' | 'metres'>
/** All that ask for a look into a can. */
function looksAsked(
  { build }: AsOf,
  log: CanLog,
  predicted: { readonly now: number; readonly forecast: LookForecast; readonly ranOver: LookForecast },
): readonly LookRequest[] {
  const { duty } = build
  // what is not fitted yet is taken to be fitted now
  const begun = log.emptyAt ?? predicted.now
  const first = duty.hours.track > 0 ? TRACK_KM_PER_SESSION * 1000 : FIRST_LOOK
  const looked = log.history.length > 0 || log.lookedAt !== undefined
  const asked: readonly LookRequest[] = [
    { reason: 'forecast', ...predicted.forecast },
    { reason: 'ran over', ...predicted.ranOver },
    ...(looked ? [] : [{ reason: 'first look', from: begun, metres: first } as const]),
    { reason: 'own interval', from: log.lookedAt ?? begun, metres: duty.checkEveryKm * 1000 },
  ]
  return asked.filter((look) => Number.isFinite(look.metres))
}

/** What the log itself makes doubtful: a change of the engine, and emptyings that stray. */
function strangenessOf(known: Learned, log: CanLog): Pick<CanForecast, 'changed' | 'doubted'> {
  const learned = Math.min(log.fillings.length, MOST_LEARNED)
  const entryOf = (k: number) =>
    withoutFaulty(log)
      .slice(log.earlier.length)
      .at(log.fillings.length - learned + k)
  const probability = known.changes.reduce((sum, c) => sum + c.any, 0)
  const at = known.changes.reduce((most, c, k, all) => (c.any > (all[most]?.any ?? 0) ? k : most), 0)
  const odds = probability / Math.max(1e-9, 1 - probability)
  const first = entryOf(at)
  const changed: CanChange | undefined =
    first && odds >= CHANGE_ODDS
      ? { odds, since: first.date, rise: known.changes[at]!.rise > known.changes[at]!.any / 2 }
      : undefined
  const doubted = known.rarity.flatMap((rarity, k) => {
    const entry = entryOf(k)
    return entry && rarity < DOUBTED && known.rarity.length > 2
      ? [{ id: entry.id, date: entry.date, oneIn: 1 / Math.max(rarity, 1e-4) }]
      : []
  })
  return { changed, doubted }
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
  return best && (best.multiplier.entries > 0 || best.startsFrom !== 'estimates') ? best.oilTimes : 1
}
