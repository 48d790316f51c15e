/** In the document: what was asked of proposals. */
import { array, boolean, type InferType } from 'yup'
import { LOG_NAME, MEANS } from './bounds'
import type { Field } from './fields'
import { choice, numbers, reference, shape } from './shapes'

/** The most that is wished; left out, as it comes. */
const ASK_FIELDS = {
  mostPrice: { label: 'Parts, at most', min: 0, max: 1e7, optional: true },
  mostHours: { label: 'Work, at most', min: 0, max: 10_000, optional: true },
  mostLooks: { label: 'Looks a year, at most', min: 0, max: 1000, optional: true },
} as const satisfies Record<string, Field>

export const askSchema = shape({
  sealed: boolean().required('is missing'),
  refused: array(choice(...MEANS))
    .required('is missing')
    .max(MEANS.length, 'names too many'),
  /** left out: the crankcase keeps its limits at the bad end of its band too; false: as it is likely */
  badEnd: boolean().optional(),
  keepCan: reference(LOG_NAME).optional(),
  ...numbers(ASK_FIELDS),
})
export type Ask = InferType<typeof askSchema>
