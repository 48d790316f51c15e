/** Figures of a log entry, and of a reading in it. */
import type { LOG_KINDS } from './bounds'
import { BLOW_BY_FIELDS, type Field } from './fields'

export const LOG_FIELDS = {
  odometerKm: { label: 'Odometer', kept: 'Km', min: 0, max: 2_000_000 },
  ml: { label: 'Came out, all', kept: 'Ml', min: 0, max: 20000, optional: true },
  waterMl: { label: 'of it water, if told apart', kept: 'Ml', min: 0, max: 20000, optional: true },
  sessions: { label: 'Track sessions since, if any', min: 0, max: 500, optional: true },
} as const satisfies Record<string, Field>

type LogKind = (typeof LOG_KINDS)[number]
/** Kinds of entry, in the order in which they are offered. */
export const LOG_ENTRIES = {
  emptied: { name: 'Emptied', ofCan: true, typed: true },
  checked: { name: 'Looked', ofCan: true, typed: true },
  fitted: { name: 'Fitted', ofCan: true, typed: true },
  'oil-added': { name: 'Oil added', ofCan: false, typed: true },
  level: { name: 'Oil level', ofCan: false, typed: true },
  reading: { name: 'Reading', ofCan: false, typed: true },
  // ticked on a track day
  session: { name: 'Track session', ofCan: false, typed: false },
} as const satisfies Record<LogKind, LogEntryFacts>
type LogEntryFacts = {
  readonly name: string
  /** it names a can */
  readonly ofCan: boolean
  /** it is typed into the log by hand */
  readonly typed: boolean
}

export const READING_FIELDS = {
  /** gauge, of the crankcase; of a part, the drop across it */
  kpa: { label: 'Gauge', kept: 'Kpa', min: -60, max: 400, optional: true },
  lpm: { label: 'Flow', kept: 'Lpm', min: 0, max: 5000, optional: true, digits: 3 },
  velocityMPerS: { label: 'Velocity', kept: 'MPerS', min: 0, max: 340, optional: true, digits: 3 },
  /** short and long trim together, as a scan tool shows them: above 0 fuel is added */
  trimPct: { label: 'Fuel trim', kept: 'Pct', min: -60, max: 60, optional: true, digits: 2 },
  /** bore of the one way out of the engine while `kpa` was read: that is its blow-by */
  orificeMm: BLOW_BY_FIELDS.orificeMm,
} as const satisfies Record<string, Field>

/** A figure that was read while a hose was held shut. */
export const FINDING_FIELDS = {
  kpa: { label: 'Gauge', kept: 'Kpa', min: -60, max: 400, optional: true },
} as const satisfies Record<string, Field>

/** A state of a recording as it was driven. */
export const RECORDED_FIELDS = {
  rpm: { label: 'Speed', kept: 'Rpm', min: 100, max: 25000 },
  manifoldKpa: { label: 'Manifold, absolute', absolute: true, kept: 'Kpa', min: 5, max: 700 },
  kpa: { label: 'Crankcase, gauge', kept: 'Kpa', min: -95, max: 400 },
  beforeKpa: { label: 'Crankcase before, gauge', kept: 'Kpa', min: -95, max: 400, optional: true },
} as const satisfies Record<string, Field>

/** What a reading is of: how it is shown, and where it is made. */
export const QUANTITIES = {
  crankcase: { sayAs: 'pressure', at: undefined },
  blowBy: { sayAs: 'flow', at: undefined },
  drop: { sayAs: 'pressure', at: 'part' },
  flow: { sayAs: 'flow', at: 'hose' },
  velocity: { sayAs: 'speed', at: 'hose' },
  trim: { sayAs: 'percent', at: undefined },
} as const satisfies Record<string, QuantityFacts>
export type Quantity = keyof typeof QUANTITIES
type QuantityFacts = {
  /** which of a formatter's words */
  readonly sayAs: 'pressure' | 'flow' | 'speed' | 'percent'
  readonly at: 'part' | 'hose' | undefined
}

/** Ways of reading, in the order in which they are offered: what each finds, its figures, how the instrument is put in. */
export const READING_WAYS = {
  crankcase: {
    name: 'Crankcase pressure',
    of: 'crankcase',
    figures: { kpa: { ...READING_FIELDS.kpa, label: 'Crankcase, gauge' } },
  },
  meter: {
    name: 'Blow-by, flow meter',
    of: 'blowBy',
    figures: { lpm: READING_FIELDS.lpm },
    how: 'On the only way out of the engine, everything else plugged.',
  },
  orifice: {
    name: 'Blow-by, known orifice',
    of: 'blowBy',
    figures: { orificeMm: READING_FIELDS.orificeMm, kpa: BLOW_BY_FIELDS.kpa },
    how: 'Everything plugged but one drilled hole to the open air; read the crankcase.',
  },
  drop: {
    name: 'Drop over a part',
    of: 'drop',
    figures: { kpa: { ...READING_FIELDS.kpa, label: 'Drop', min: 0 } },
    how: 'One gauge before it and one after, or both legs of one.',
  },
  flow: { name: 'Flow in a hose', of: 'flow', figures: { lpm: READING_FIELDS.lpm } },
  velocity: {
    name: 'Velocity in a hose',
    of: 'velocity',
    figures: { velocityMPerS: READING_FIELDS.velocityMPerS },
    how: 'A vane or hot wire in the hose, in the middle of it.',
  },
  trim: {
    name: 'Fuel trim',
    of: 'trim',
    figures: { trimPct: READING_FIELDS.trimPct },
    how: 'Short and long trim added up, engine warm, as a scan tool shows them.',
  },
} as const satisfies Record<string, ReadingWayFacts>
export type ReadingWay = keyof typeof READING_WAYS
type ReadingWayFacts = {
  readonly name: string
  readonly of: Quantity
  readonly figures: Readonly<Partial<Record<keyof typeof READING_FIELDS, Field>>>
  readonly how?: string
}

/** A reading's figures, and what it was made at. */
export type ReadFigures = Readonly<Partial<Record<keyof typeof READING_FIELDS, number | undefined>>> & {
  readonly at?: string | undefined
}

/** What is wrong with a reading as a whole, if anything. */
export function readingProblem(r: ReadFigures | undefined): string | undefined {
  if (!r) return 'is missing'
  const figures = [r.kpa, r.lpm, r.velocityMPerS, r.trimPct].filter((x) => x !== undefined).length
  if (figures !== 1) return 'needs one figure: a pressure, a flow, a velocity or a trim'
  if (r.velocityMPerS !== undefined && r.at === undefined) return 'of a velocity names the hose it was read in'
  if (r.trimPct !== undefined && r.at !== undefined) return 'of a fuel trim is of the engine, not of a part'
  if (r.orificeMm !== undefined && (r.at !== undefined || !((r.kpa ?? 0) > 0)))
    return 'over an orifice is a crankcase above the surroundings'
  return undefined
}
