/** Figures of Parts and Fit. */
import type { Field } from './fields'

/** A fitting of the builder's own. */
export const PIECE_FIELDS = {
  boreMm: { label: 'Least bore', kept: 'Mm', min: 1, max: 60, digits: 3 },
  joints: { label: 'Joints it makes', min: 1, max: 4, whole: true, optional: true, standIn: 1 },
} as const satisfies Record<string, Field>

/** Of a piece to buy: what it costs, in the builder's own money, and how many (or how much hose, mm) lie in the drawer. */
export const STOCK_FIELDS = {
  price: { label: 'Price', min: 0, max: 100_000, optional: true, digits: 6 },
  have: { label: 'In the drawer', min: 0, max: 100_000, optional: true, digits: 6 },
} as const satisfies Record<string, Field>

/** Of an estimate for a customer; hours as the builder says, else as such work usually takes. */
export const ESTIMATE_FIELDS = {
  ratePerHour: { label: 'An hour costs', min: 0, max: 100_000, optional: true, digits: 6 },
  taxPct: { label: 'Tax', kept: 'Pct', min: 0, max: 100, optional: true, digits: 4 },
  hours: { label: 'Hours', min: 0, max: 10_000, optional: true, digits: 3 },
} as const satisfies Record<string, Field>

export const TICK_FIELDS = {
  seconds: { label: 'Took', unit: 's', min: 0, max: 1e6, optional: true },
} as const satisfies Record<string, Field>
