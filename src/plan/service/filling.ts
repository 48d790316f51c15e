/** How a can fills along the road: what the model gathers from a day on, month by month, and where the bowl is full. */
import type { Range } from '@/core/service/fill'
import type { RatesByWeather } from './can-rates'
import { monthsFrom } from './days'
import type { DutyRates } from '../model/results'

/** Months ahead that are followed one by one; beyond them the mean of a year goes on. */
const MONTHS_AHEAD = 24

/** A stretch of road in one weather. */
type Leg = { readonly metres: number; readonly rates: DutyRates }

/** A day, and how far the car has been driven since and is driven from now on. */
export type Driven = {
  /** ISO dates */
  readonly from: string
  readonly today: string
  /** m since `from` */
  readonly metres: number
  /** m a day from today on */
  readonly perDay: number
}

const plus = (a: DutyRates, b: DutyRates, times: number): DutyRates => ({
  oil: a.oil + times * b.oil,
  water: a.water + times * b.water,
  track: (a.track ?? 0) + times * (b.track ?? 0),
})
const NOTHING: DutyRates = { oil: 0, water: 0, track: 0 }

/** Legs from a day on: what is driven already, then the months ahead; the last goes on without end. */
function legsOf(rates: RatesByWeather, { from, today, metres, perDay }: Driven): readonly Leg[] {
  if (!rates.seasonal) return [{ metres: Infinity, rates: rates.inMonth(0).all }]
  const legs: Leg[] = metres > 0 ? [{ metres, rates: rates.during(from, today).all }] : []
  const past = legs.length
  if (perDay > 0)
    for (const { month, days } of monthsFrom(today)) {
      legs.push({ metres: days * perDay, rates: rates.inMonth(month).all })
      if (legs.length - past === MONTHS_AHEAD) break
    }
  const year = Array.from({ length: 12 }, (_, m) => rates.inMonth(m).all)
  const mean = year.reduce((sum, r) => plus(sum, r, 1 / 12), NOTHING)
  return [...legs, { metres: Infinity, rates: mean }]
}

/** What the model gathers from a day on, at multipliers of 1. */
export type Filling = {
  /** metres after which so much has gathered by the model alone, oil and water together; Infinity where it never does */
  readonly metresTo: (m3: number) => number
  /**
   * Metres after which the bowl is full: soonest, likely, latest. Infinity where it never is.
   * @param room m3 that are left in it
   * @param gathers what so much by the model comes to, with what was learned and what an interval scatters
   */
  readonly untilFull: (room: number, gathers: (predicted: DutyRates) => Range) => Range
}

/** How a can fills from a day on. */
export function fillingFrom(rates: RatesByWeather, driven: Driven): Filling {
  const legs = legsOf(rates, driven)
  return {
    metresTo(m3) {
      let [gone, held] = [0, 0]
      for (const { metres, rates: r } of legs) {
        const rate = r.oil + r.water
        const need = rate > 0 ? (m3 - held) / rate : Infinity
        if (need <= metres) return gone + need
        gone += metres
        held += metres * rate
      }
      return Infinity
    },
    untilFull(room, gathers) {
      if (room <= 0) return { low: 0, mid: 0, high: 0 }
      const full: { low?: number; mid?: number; high?: number } = {}
      let [gone, predicted, held] = [0, NOTHING, { low: 0, mid: 0, high: 0 }]
      for (const { metres, rates: r } of legs) {
        // a range grows in step with what is predicted while the weather stays
        const endless = metres === Infinity
        const then = endless ? r : plus(predicted, r, metres)
        const at = gathers(then)
        for (const [end, q] of [
          ['low', 'high'],
          ['mid', 'mid'],
          ['high', 'low'],
        ] as const) {
          const rate = endless ? at[q] : (at[q] - held[q]) / metres
          const need = rate > 0 ? (room - held[q]) / rate : Infinity
          if (need <= metres) full[end] ??= gone + need
        }
        if (full.high !== undefined) break
        ;[gone, predicted, held] = [gone + metres, then, at]
      }
      return { low: full.low ?? Infinity, mid: full.mid ?? Infinity, high: full.high ?? Infinity }
    },
  }
}
