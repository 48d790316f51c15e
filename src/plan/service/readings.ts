/** Readings as the log holds them: what each is of, in SI, what its instrument may be off by, and what a solved state should show there. */
import type { StateId } from '@/core/engine/states'
import { toSi } from '@/core/units/units'
import { QUANTITIES, type Quantity } from '../document/log-fields'
import type { Build, LogEntry } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { lowered, type UnitFormatter } from '../document/words'
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
  /** of a fuel trim, shares of 1: fuel and sensors stray by as much */
  trim: 0.02,
}

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

/**
 * Which quantity an entered reading is of.
 *
 * @example
 * import { quantityOf } from '@/plan/service/readings'
 *
 * console.log(quantityOf({ kpa: -2.5, at: 'can' })) // 'drop'
 */
export function quantityOf({ kpa, lpm, orificeMm, trimPct, at }: EnteredReading): Quantity {
  if (trimPct !== undefined) return 'trim'
  if (kpa !== undefined) return at !== undefined ? 'drop' : orificeMm !== undefined ? 'blowBy' : 'crankcase'
  if (lpm !== undefined) return at === undefined ? 'blowBy' : 'flow'
  return 'velocity'
}

/**
 * A reading as entered, in SI, with what its instrument may be off by.
 *
 * @example
 * import { newBuild } from '@/plan/schools/new-build'
 * import { valueOf } from '@/plan/service/readings'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(valueOf(build, { kpa: -2.5 })) // { value: -2500, error: 203.9607805437114 }
 */
export function valueOf(build: Build, read: EnteredReading): Pick<Reading, 'value' | 'error'> {
  const { kpa = 0, lpm, velocityMPerS = 0, orificeMm, trimPct = 0 } = read
  const quantity = quantityOf(read)
  if (quantity === 'trim') return { value: trimPct / 100, error: ERRORS.trim }
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
  trim: () => 'the fuel trim',
}

/**
 * Where a reading was made, in words: "the crankcase", "the drop over the catch can".
 *
 * @example
 * import { newBuild } from '@/plan/schools/new-build'
 * import { readingPlace } from '@/plan/service/readings'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(readingPlace(build, { quantity: 'drop', at: 'can' })) // 'the drop over the catch can'
 */
export function readingPlace(build: Build, { quantity, at }: Pick<Reading, 'quantity' | 'at'>): string {
  const { parts, lines } = activeVariant(build)
  return IN_WORDS[quantity](lowered([...parts, ...lines].find((x) => x.id === at)?.name ?? 'a part that is gone'))
}

/**
 * A figure of a reading's kind in a build's units.
 *
 * @example
 * import { unitFormatter } from '@/plan/document/words'
 * import { readingText } from '@/plan/service/readings'
 *
 * console.log(readingText(unitFormatter({ system: 'metric', pressure: 'kPa', flow: 'l/min' }), 'crankcase', -2500)) // '−2.5 kPa'
 */
export const readingText = (say: UnitFormatter, quantity: Quantity, value: number): string =>
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
  // what a trim is off by says which fault it is, and nothing of the estimates
  trim: () => Number.NaN,
}

/** Share of a figure that a reading may be off before it is said, beside what its instrument may be. */
const FAR_SHARE = 0.5
/** Standard deviations of its instrument beyond which a reading is off. */
const FAR_ERRORS = 3

/** A reading that is far from what the plan says there, and what that is. */
export type FarReading = { readonly read: Reading; readonly shown: number }

/** Readings further from the plan than instrument and habit explain; of the crankcase also where its sign is another. */
export const farReadings = (
  build: Build,
  states: readonly (ReadableState & { readonly id: StateId })[],
): readonly FarReading[] =>
  readingsOf(build).flatMap((read) => {
    const state = states.find((s) => s.id === read.state)
    const shown = state ? shownIn(state, read) : Number.NaN
    const off = Math.abs(shown - read.value)
    return off > FAR_ERRORS * read.error && off > FAR_SHARE * Math.abs(shown) ? [{ read, shown }] : []
  })
