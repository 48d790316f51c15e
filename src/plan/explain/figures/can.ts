/** Figures of a can over time: what it likely holds, when it is full, what its log has taught. */
import { multiplierAt } from '@/core/service/multiplier'
import { CHANGE, PRIOR_SIGMA, SCATTER } from '@/core/service/prior'
import type { CanForecast, Worked } from '../../model/results'
import { input, type WorkingOf, type Input } from '../figure'

const canOf = (a: Worked, id: string) => a.cans.find((c) => c.part === id)

const SOURCE = `Multipliers on the oil and the water rate: lognormal prior, median 1, sigma ${PRIOR_SIGMA}; an interval strays by Student’s t of 4 degrees, scale likely ${SCATTER.median} and learned too; a change before one interval in ${Math.round(1 / CHANGE.probability)}; a bowl that ran over says at least its volume, a dry one at most a film; Bayes’ rule (Gelman et al., Bayesian Data Analysis).`

const learned = ({ entries }: { readonly entries: number }) => (entries > 0 ? 'measured' : 'estimated')
const gathers = (c: CanForecast): string =>
  `${c.trackMultiplier ? 'oil on the road × multiplier + oil on track × its own' : 'oil × multiplier'} + water × its own`
const ratesOf = (c: CanForecast): Input[] => [
  input('Oil, by the model', c.perMetre.oil, 'perDistance', 'computed'),
  input('Water, by the model', c.perMetre.water, 'perDistance', 'computed'),
  input('Multiplier learned, median', multiplierAt(c.multiplier, 0.5), 'number', learned(c.multiplier)),
  input('Multiplier on water, median', multiplierAt(c.waterMultiplier, 0.5), 'number', learned(c.waterMultiplier)),
  ...(c.trackMultiplier
    ? [
        input('Of the oil, made on track', c.perMetre.track ?? 0, 'perDistance', 'computed'),
        input(
          'Multiplier on track, median',
          multiplierAt(c.trackMultiplier, 0.5),
          'number',
          learned(c.trackMultiplier),
        ),
      ]
    : []),
  input('Emptyings used', c.multiplier.entries, 'number', 'measured'),
]

/** Working of what stands in a can now, m3 (methods 7). */
export const fillNowWorking: WorkingOf<'fillNow'> = (_, a, ref) => {
  const c = canOf(a, ref.id)!
  const from = c.look?.at ?? c.emptyAt
  const since = from === undefined ? 0 : c.odometerNow - from
  const begun = c.look ? 'looked into' : 'emptied'
  return {
    title: `${c.name}, likely content`,
    relation: `${c.look ? 'held then + ' : ''}distance since ${begun} × (${gathers(c)})`,
    source: SOURCE,
    inputs: [
      ...(c.look ? [input('Held then', c.look.held, 'volume', 'measured')] : []),
      input(`Distance since ${begun}`, since, 'distance', 'computed'),
      ...ratesOf(c),
    ],
  }
}

/** Working of the distance to full, m (methods 7). */
export const distanceWorking: WorkingOf<'distance'> = (_, a, ref) => {
  const c = canOf(a, ref.id)!
  return {
    title: `${c.name}, distance to full`,
    relation: `bowl / (${gathers(c)})`,
    source: SOURCE,
    inputs: [input('Bowl below the port', c.bowlM3, 'volume', 'entered'), ...ratesOf(c)],
    note: 'The range runs from one car in ten to nine in ten.',
  }
}

/** Working of what the log makes of the predicted rate, a factor (methods 7). */
export const multiplierWorking: WorkingOf<'multiplier'> = (_, a, ref) => {
  const c = canOf(a, ref.id)!
  return {
    title: `${c.name}, multiplier`,
    relation: 'what the emptyings found / what the model said',
    source: SOURCE,
    inputs: c.history.slice(-6).map((h) => input(`${h.date}, found`, h.found.oil, 'volume', 'measured')),
  }
}
