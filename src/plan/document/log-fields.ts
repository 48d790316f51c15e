/** Figures of a log entry, and of a reading in it. */
import { BLOW_BY_FIELDS, type Field } from './fields'

export const LOG_FIELDS = {
  odometerKm: { label: 'Odometer', kept: 'Km', min: 0, max: 2_000_000 },
  ml: { label: 'Came out, all', kept: 'Ml', min: 0, max: 20000, optional: true },
  waterMl: { label: 'of it water, if told apart', kept: 'Ml', min: 0, max: 20000, optional: true },
  sessions: { label: 'Track sessions since, if any', min: 0, max: 500, optional: true },
} as const satisfies Record<string, Field>
export const READING_FIELDS = {
  /** gauge, of the crankcase; of a part, the drop across it */
  kpa: { label: 'Gauge', kept: 'Kpa', min: -60, max: 400, optional: true },
  lpm: { label: 'Flow', kept: 'Lpm', min: 0, max: 5000, optional: true, digits: 3 },
  velocityMPerS: { label: 'Velocity', kept: 'MPerS', min: 0, max: 340, optional: true, digits: 3 },
  /** bore of the one way out of the engine while `kpa` was read: that is its blow-by */
  orificeMm: BLOW_BY_FIELDS.orificeMm,
} as const satisfies Record<string, Field>

/** A reading's figures, and what it was made at. */
export type ReadFigures = Readonly<Partial<Record<keyof typeof READING_FIELDS, number | undefined>>> & {
  readonly at?: string | undefined
}

/** What is wrong with a reading as a whole, if anything. */
export function readingProblem(r: ReadFigures | undefined): string | undefined {
  if (!r) return 'is missing'
  const figures = [r.kpa, r.lpm, r.velocityMPerS].filter((x) => x !== undefined).length
  if (figures !== 1) return 'needs one figure: a pressure, a flow or a velocity'
  if (r.velocityMPerS !== undefined && r.at === undefined) return 'of a velocity names the hose it was read in'
  if (r.orificeMm !== undefined && (r.at !== undefined || !((r.kpa ?? 0) > 0)))
    return 'over an orifice is a crankcase above the surroundings'
  return undefined
}
