/** Figures of a can over time: what it likely holds, when it is full, what its log has taught. */
import { multiplierAt } from '@/core/service/multiplier'
import { CHANGE, PRIOR_SIGMA, SCATTER } from '@/core/service/prior'
import type { CanForecast, LookReason, Worked } from '../../model/results'
import { capital } from '../../document/words'
import { sub, type Draft } from '../draft'
import type { Origin, WorkingOf } from '../figure'
import { originAt } from '../origin'

const canOf = (a: Worked, id: string) => a.cans.find((c) => c.part === id)

const SOURCE = `Multipliers on the oil and the water rate: lognormal prior, median 1, sigma ${PRIOR_SIGMA}; an interval strays by Student’s t of 4 degrees, scale likely ${SCATTER.median} and learned too; a change before one interval in ${Math.round(1 / CHANGE.probability)}; a bowl that ran over says at least its volume, a dry one at most a film; Bayes’ rule (Gelman et al., Bayesian Data Analysis).`
const POSTERIOR =
  'The median of oil and water together is taken from all that the multipliers may be, not from their medians: of a sum of two spreads it lies above the sum of the two.'

const learned = ({ entries }: { readonly entries: number }): Origin => (entries > 0 ? 'learned' : 'estimated')

const BEFORE: Readonly<Record<CanForecast['startsFrom'], string>> = {
  estimates: 'an estimate',
  kind: 'by other cars of its kind',
  'other plan': 'by the plan that was on it before',
}

/** Prior, what each emptying found and what was predicted of it, and what came of it. */
function posterior(c: CanForecast, draft: Draft): void {
  draft.given('O', 'Oil a distance, by the model', c.perMetre.oil, { dimension: 'perDistance', origin: 'computed' })
  draft.given('W', 'Water a distance, by the model', c.perMetre.water, { dimension: 'perDistance', origin: 'computed' })
  draft.given(
    'M₀',
    `Multiplier before any emptying, median (${BEFORE[c.startsFrom]})`,
    multiplierAt(c.before.oil, 0.5),
    {
      dimension: 'number',
      origin: c.startsFrom === 'estimates' ? 'estimated' : 'learned',
    },
  )
  const counted = c.history.filter((h) => !h.ofFault)
  counted.slice(-MOST_LISTED).forEach((h, i) => {
    const mark = sub(i + 1)
    const sum = (v: { readonly oil: number; readonly water: number }) => v.oil + v.water
    draft.given(`F${mark}`, `${h.date}: found`, sum(h.found), { dimension: 'volume', origin: 'measured' })
    draft.given(`P${mark}`, `${h.date}: predicted by the model`, sum(h.predicted), {
      dimension: 'volume',
      origin: 'computed',
    })
  })
  draft.given('M', 'Multiplier on oil now, median', multiplierAt(c.multiplier, 0.5), {
    dimension: 'number',
    origin: learned(c.multiplier),
  })
  draft.given('M_w', 'Multiplier on water now, median', multiplierAt(c.waterMultiplier, 0.5), {
    dimension: 'number',
    origin: learned(c.waterMultiplier),
  })
}
const MOST_LISTED = 6

/** Working of the distance to full, m (methods 7). */
export const distanceWorking: WorkingOf<'distance'> = ({ build, a }, ref, draft) => {
  const c = canOf(a, ref.id)!
  posterior(c, draft)
  draft.given('V', 'Bowl below the port', c.bowlM3, {
    dimension: 'volume',
    origin: originAt(build, ['variants', build.active, 'parts', ref.id, 'bowlMl']),
  })
  draft.given('r', 'Oil and water together a distance, median', c.bowlM3 / c.distance.mid, {
    dimension: 'perDistance',
    origin: 'learned',
  })
  draft.step('d', 'Distance from empty to full', 'V/r', 'distance')
  return {
    title: `${c.name}, distance to full`,
    result: 'd',
    solved: POSTERIOR,
    source: SOURCE,
    note: 'The range runs from one car in ten to nine in ten.',
  }
}

/** Working of what stands in a can now, m3 (methods 7). */
export const fillNowWorking: WorkingOf<'fillNow'> = ({ a }, ref, draft) => {
  const c = canOf(a, ref.id)!
  const from = c.look?.at ?? c.emptyAt
  const since = from === undefined ? 0 : c.odometerNow - from
  const begun = c.look ? 'looked into' : 'emptied'
  const held = c.look?.held ?? 0
  posterior(c, draft)
  draft.given('h', c.look ? `Held on ${c.look.date}` : 'Held when it was emptied', held, {
    dimension: 'volume',
    origin: 'measured',
  })
  draft.given('s', `Distance since it was ${begun}`, since, { dimension: 'distance', origin: 'computed' })
  draft.given('r', 'Oil and water together a distance, median', since > 0 ? (c.now.mid - held) / since : 0, {
    dimension: 'perDistance',
    origin: 'learned',
  })
  draft.step('x', 'Likely content', since > 0 ? 'h + s·r' : 'h', 'volume')
  return { title: `${c.name}, likely content`, result: 'x', solved: POSTERIOR, source: SOURCE }
}

/** Working of what the log makes of the predicted rate, a factor (methods 7). */
export const multiplierWorking: WorkingOf<'multiplier'> = ({ a }, ref, draft) => {
  const c = canOf(a, ref.id)!
  posterior(c, draft)
  return {
    title: `${c.name}, multiplier`,
    result: 'M',
    solved:
      'Bayes’ rule over a grid of multipliers and scatters: what each emptying found, against what was predicted, weighs every point of it.',
    source: SOURCE,
  }
}

const LOOKS: Readonly<Record<LookReason, { readonly name: string; readonly origin: Origin }>> = {
  forecast: { name: 'from then until one car in ten is full', origin: 'computed' },
  'ran over': { name: 'as far as it went when it last ran over, by the model', origin: 'computed' },
  'first look': { name: 'first look at what is new', origin: 'estimated' },
  'own interval': { name: 'your own interval', origin: 'entered' },
}

/** Working of the odometer by which to look, m: the earliest of all that ask for a look (methods 7). */
export const checkByWorking: WorkingOf<'checkBy'> = ({ build, a }, ref, draft) => {
  const c = canOf(a, ref.id)!
  const asked = c.looks.map(({ reason, from, metres }, i) => {
    const { name, origin } = LOOKS[reason]
    const start = draft.given(`o${sub(i + 1)}`, 'Odometer that it counts from', from, {
      dimension: 'distance',
      origin: 'measured',
    })
    const further = draft.given(`d${sub(i + 1)}`, capital(name), metres, { dimension: 'distance', origin })
    return draft.step(`L${sub(i + 1)}`, `Odometer: ${name}`, `${start} + ${further}`, 'distance')
  })
  draft.step('L', 'Look by', `min(${asked.join('; ')})`, 'distance')
  draft.given('n', 'Odometer today', c.odometerNow, { dimension: 'distance', origin: 'computed' })
  draft.given('y', 'Distance a year', build.duty.kmPerYear * 1000, { dimension: 'distance', origin: 'entered' })
  draft.step('t', 'Days until then', '(L − n)/(y/365.25)')
  return {
    title: `${c.name}, next look`,
    result: 'L',
    source: 'The earliest of the forecast, your own interval and the first look at what is new (methods 7).',
    note: 'The forecast is the distance at which one car in ten has a full bowl; what is likely is told at “Empty to full”.',
  }
}
