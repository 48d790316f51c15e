/** A car to practise on, drawn from a seed: an engine, a plan, a fault of some severity or none, and what its driver complains of. */
import { uniforms } from '@/core/random'
import type { Build } from '../document/schema'
import { makeEvaluator } from '../model/evaluator'
import { figuresOf } from '../model/figures'
import { gasSolver } from '../finder/gas-states'
import type { TickedSymptom } from '../finder/fault-odds'
import { catchRates, totalCatchRate } from '../finder/predictions'
import { simulatedCase, type SimulatedCase } from '../finder/simulated-case'
import { chanceSeen, SYMPTOM_IDS, symptomFigures, type SymptomFigures, type SymptomId } from '../finder/symptoms'

export type PracticeCar = SimulatedCase & {
  readonly seed: number
  /** in the driver's words */
  readonly complaint: string
  /** the same as the finder takes it */
  readonly symptoms: readonly TickedSymptom[]
  /** what there is time for */
  readonly minutes: number
}

/** What a driver says of a symptom. */
const SAYS: Readonly<Record<SymptomId, string>> = {
  'smoke-overrun': 'It smokes when I lift off after a long pull.',
  'dipstick-lifts': 'The dipstick was out of its tube again after the motorway.',
  'lean-idle': 'It hunts at idle, and the engine lamp came on.',
  squeal: 'It whistles at idle.',
  sludge: 'There is a milky paste under the filler cap.',
  'oil-at-vent': 'There is oil all round the vent filter.',
  'seals-leak': 'It leaves drops where I park.',
  'fills-fast': 'The can was full again after two weeks.',
  'stays-dry': 'There is never anything in the can. Is it working at all?',
}
const NOTHING_NOTICED = 'I notice nothing. Look it over before I drive it hard.'
/** A driver tells of so many things. */
const MOST_COMPLAINTS = 2
const MINUTES = 75

/** Figures by which a car's driver notices things. */
function noticed(car: Build): SymptomFigures {
  const evaluator = makeEvaluator()
  const figures = figuresOf(car, evaluator)
  return symptomFigures(car, gasSolver(evaluator)(car) ?? [], figures, totalCatchRate(catchRates(car, figures)))
}

/** Each seed has so many tries until a draw is a car. */
const TRIES = 64

/**
 * Draws a car. Same seed, same car.
 * @param seed a whole number, 0 or more
 *
 * @example
 * import { drawPracticeCar } from '@/plan/practice/practice-car'
 *
 * console.log(drawPracticeCar(1).complaint === drawPracticeCar(1).complaint) // true
 */
export function drawPracticeCar(seed: number): PracticeCar {
  for (let k = 0; k < TRIES; k++) {
    const simulated = simulatedCase(90_000 + seed * TRIES + k)
    if (simulated) return { ...simulated, seed, ...complaintOf(simulated, seed), minutes: MINUTES }
  }
  throw new RangeError(`No car can be drawn from ${seed}.`)
}

function complaintOf({ build, car }: SimulatedCase, seed: number): Pick<PracticeCar, 'complaint' | 'symptoms'> {
  const uniform = uniforms(seed + 17)
  const [now, sound] = [noticed(car), noticed(build)]
  const chances = SYMPTOM_IDS.flatMap((id) => {
    const chance = chanceSeen(id, now, sound)
    return chance === undefined ? [] : [{ id, chance, seen: uniform() < chance }]
  })
  const complaints = chances
    .filter((c) => c.seen)
    .toSorted((a, b) => b.chance - a.chance)
    .slice(0, MOST_COMPLAINTS)
  return {
    complaint: complaints.length === 0 ? NOTHING_NOTICED : complaints.map((t) => SAYS[t.id]).join(' '),
    symptoms: complaints.map(({ id }) => ({ id, seen: true })),
  }
}
