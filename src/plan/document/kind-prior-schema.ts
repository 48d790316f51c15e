/** In the document: what other cars of the same kind have taught, as what is expected of this one before its own log speaks. */
import { array, boolean, string, type InferType } from 'yup'
import { LOG_NAME, MAX_PARTS } from './bounds'
import type { Field } from './fields'
import { id, numbers, reference, shape } from './shapes'

const MU = { min: -7, max: 7 } as const
const SIGMA = { min: 0.01, max: 3 } as const
/** Of a can: middle and spread of the logarithm of what multiplies its oil, on the road and on track, and its water. */
const CAN_FIELDS = {
  oilMu: { label: 'Oil, middle', ...MU },
  oilSigma: { label: 'Oil, spread', ...SIGMA },
  waterMu: { label: 'Water, middle', ...MU },
  waterSigma: { label: 'Water, spread', ...SIGMA },
  trackMu: { label: 'Oil on track, middle', ...MU },
  trackSigma: { label: 'Oil on track, spread', ...SIGMA },
} as const satisfies Record<string, Field>
/** How many cars it is from, and how many emptyings of theirs. */
const FROM_FIELDS = {
  cars: { label: 'Cars', min: 1, max: 100_000, whole: true },
  emptyings: { label: 'Emptyings', min: 1, max: 10_000_000, whole: true },
} as const satisfies Record<string, Field>

export const kindPriorSchema = shape({
  /** engines of one class, by `engineKind`, and the school of the plan that was on them */
  engine: reference(LOG_NAME).required('is missing'),
  school: reference(LOG_NAME).required('is missing'),
  ...numbers(FROM_FIELDS),
  /** as of this day */
  date: string()
    .required('is missing')
    .matches(/^[12]\d{3}-\d{2}-\d{2}$/, 'must be a day such as 2026-05-30'),
  /** kept, and not gone by */
  off: boolean().optional(),
  cans: array(shape({ id: id(), ...numbers(CAN_FIELDS) }))
    .required('is missing')
    .max(MAX_PARTS, 'has too many'),
})
export type KindPrior = InferType<typeof kindPriorSchema>
