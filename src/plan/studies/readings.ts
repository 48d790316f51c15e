/**
 * What manometer readings say of the estimates: each draw of them is weighted by how well it explains the readings (importance sampling:
 * Gelman et al., Bayesian Data Analysis, 10.4). A draw that no reading rules out counts in full, one far from them not at all.
 */
import type { StateId } from '@/core/engine/states'
import { toSi } from '@/core/units/units'
import { QUANTITIES, type Quantity } from '../document/log-fields'
import type { Build, LogEntry } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { lowered, type Teller } from '../document/words'
import { engineModel, measuredFlow } from '../model/engine'
import type { Passage } from '../model/results'

/** How far a gauge at the dipstick tube may be off, Pa, and in proportion (estimates, one standard deviation). */
const GAUGE_PA = 40
const GAUGE_SHARE = 0.08
/** Error of a gauge that reads so much, Pa, one standard deviation. */
export const gaugeError = (gaugePa: number): number => Math.hypot(GAUGE_PA, GAUGE_SHARE * gaugePa)
/** The same of a flow meter (kg/s), of an orifice with its gauge (kg/s) and of a vane or hot wire in a hose (m/s): estimates. */
const ERRORS = {
  meter: (flow: number) => Math.hypot(3e-5, 0.05 * flow),
  orifice: (flow: number) => Math.hypot(3e-5, 0.08 * flow),
  vane: (speed: number) => Math.hypot(0.3, 0.1 * speed),
}
/** With less than this many draws' worth of weight left, the readings fit nothing that was thought possible. */
const LEAST_WEIGHT = 8

export type Reading = {
  readonly id: string
  readonly state: StateId
  readonly quantity: Quantity
  /** the part or hose that it was read at; none for the crankcase and blow-by */
  readonly at: string | undefined
  /** Pa gauge, Pa, kg/s or m/s */
  readonly value: number
  /** one standard deviation of the instrument, in the same unit */
  readonly error: number
  readonly date: string
}
type EnteredReading = NonNullable<LogEntry['reading']>

/** Which quantity an entered reading is of. */
export function quantityOf({ kpa, lpm, orificeMm, at }: EnteredReading): Quantity {
  if (kpa !== undefined) return at !== undefined ? 'drop' : orificeMm !== undefined ? 'blowBy' : 'crankcase'
  if (lpm !== undefined) return at === undefined ? 'blowBy' : 'flow'
  return 'velocity'
}

/** A reading as entered, in SI, with what its instrument may be off by. */
export function valueOf(build: Build, read: EnteredReading): Pick<Reading, 'value' | 'error'> {
  const { kpa = 0, lpm, velocityMPerS = 0, orificeMm } = read
  const quantity = quantityOf(read)
  if (quantity === 'velocity') return { value: velocityMPerS, error: ERRORS.vane(velocityMPerS) }
  if (lpm !== undefined) {
    const value = toSi('gasFlow', lpm, 'l/min')
    return { value, error: ERRORS.meter(value) }
  }
  if (quantity === 'blowBy') {
    const model = engineModel(build)
    const gasK = model.states.find((s) => s.id === read.state)?.gasK ?? model.amb.temperatureK
    const value = measuredFlow({ state: read.state, kpa, orificeMm }, model.amb, gasK)
    return { value, error: ERRORS.orifice(value) }
  }
  const value = toSi('pressure', kpa, 'kPa')
  return { value, error: gaugeError(value) }
}

/** The last reading of each thing in each state, made with the active plan fitted. */
export function readingsOf(build: Build): readonly Reading[] {
  const last = new Map<string, Reading>()
  const made = (e: LogEntry) => (e.plan ?? build.variants[0]!.id) === build.active
  for (const e of build.log.toSorted((a, b) => a.odometerKm - b.odometerKm))
    if (e.kind === 'reading' && e.reading && made(e)) {
      const { state, at } = e.reading
      const quantity = quantityOf(e.reading)
      const reading = { id: e.id, state, at, quantity, date: e.date, ...valueOf(build, e.reading) }
      last.set(`${state} ${quantity} ${at ?? ''}`, reading)
    }
  return [...last.values()]
}

const IN_WORDS: Readonly<Record<Quantity, (there: string) => string>> = {
  crankcase: () => 'the crankcase',
  blowBy: () => 'the blow-by',
  drop: (there) => `the drop over the ${there}`,
  flow: (there) => `the flow in the ${there}`,
  velocity: (there) => `the velocity in the ${there}`,
}
/** Where a reading was made, in words: "the crankcase", "the drop over the catch can". */
export function readingPlace(build: Build, { quantity, at }: Pick<Reading, 'quantity' | 'at'>): string {
  const { parts, lines } = activeVariant(build)
  return IN_WORDS[quantity](lowered([...parts, ...lines].find((x) => x.id === at)?.name ?? 'a part that is gone'))
}

/** A figure of a reading's kind in a build's units. */
export const readingText = (say: Teller, quantity: Quantity, value: number): string =>
  say[QUANTITIES[quantity].sayAs](value)

/** What a state must be known by for a reading to be compared with it: a solved one, or a draw of it. */
export type ReadableState = {
  readonly crankcaseGauge: number
  readonly blowBy: number
  readonly passages: Readonly<Record<string, Pick<Passage, 'flow' | 'gaugeFrom' | 'gaugeTo' | 'velocity'>>>
}
/** The figure that a reading should show, without sign but for the crankcase's; NaN where the plan has no such place. */
export const shownIn = (s: ReadableState, { quantity, at }: Pick<Reading, 'quantity' | 'at'>): number =>
  SHOWN[quantity](s, s.passages[at ?? ''] ?? NOWHERE)

type PassageFigures = ReadableState['passages'][string]
const NOWHERE: PassageFigures = { flow: Number.NaN, gaugeFrom: Number.NaN, gaugeTo: Number.NaN, velocity: Number.NaN }
const SHOWN: Readonly<Record<Quantity, (s: ReadableState, at: PassageFigures) => number>> = {
  crankcase: (s) => s.crankcaseGauge,
  blowBy: (s) => s.blowBy,
  drop: (_, at) => Math.abs(at.gaugeFrom - at.gaugeTo),
  flow: (_, at) => Math.abs(at.flow),
  velocity: (_, at) => at.velocity,
}

export type Weighed = {
  /** sums to 1 */
  readonly weight: Float64Array
  /** draws' worth of weight that is left */
  readonly worth: number
  /** readings that no draw comes near, each on its own */
  readonly strange: readonly Reading[]
}

/**
 * Weights of draws by the readings.
 * @param shown what each reading should show in each draw; NaN where a draw has no answer
 * @returns undefined without readings that can be compared
 */
export function weigh(
  readings: readonly Reading[],
  shown: (r: Reading) => Float64Array,
  draws: number,
): Weighed | undefined {
  const log = new Float64Array(draws)
  const strange: Reading[] = []
  let compared = 0
  for (const r of readings) {
    const values = shown(r)
    if (values.every(Number.isNaN)) continue
    compared++
    let nearest = Infinity
    for (let k = 0; k < draws; k++) {
      const off = (values[k]! - r.value) / r.error
      log[k]! -= Number.isNaN(off) ? Infinity : (off * off) / 2
      if (Math.abs(off) < nearest) nearest = Math.abs(off)
    }
    if (nearest > 2) strange.push(r)
  }
  if (compared === 0) return undefined
  const most = log.reduce((m, v) => Math.max(m, v), -Infinity)
  const weight = log.map((v) => (most === -Infinity ? 1 : Math.exp(v - most)))
  const sum = weight.reduce((s, v) => s + v, 0)
  const square = weight.reduce((s, v) => s + v * v, 0)
  return { weight: weight.map((v) => v / sum), worth: (sum * sum) / square, strange }
}

/** Whether the readings agree with each other and with the plan, within what was thought possible. */
export const fits = (w: Weighed): boolean => w.strange.length === 0 && w.worth >= LEAST_WEIGHT
