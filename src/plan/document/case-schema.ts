/** In the document: complaints that were followed to their fault, and what was found on the way. */
import { array, boolean, string, type InferType } from 'yup'
import { LOG_NAME, MAX_FINDINGS } from './bounds'
import { STATE_IDS } from '@/core/engine/states'
import { FINDING_FIELDS, RECORDED_FIELDS } from './log-fields'
import { choice, id, numbers, reference, shape, text } from './shapes'

const day = () => string().matches(/^[12]\d{3}-\d{2}-\d{2}$/, 'must be a day such as 2026-05-30')

export const caseSchema = shape({
  id: id(),
  /** the plan on the car then */
  plan: reference(40).required('is missing'),
  opened: day().required('is missing'),
  /** day from which on the trouble is there; left out, the last reading of each thing is of now and those before it of before */
  since: day().optional(),
  /** what was noticed, or looked for and not seen */
  symptoms: array(shape({ id: id(), seen: boolean().required('is missing') }))
    .required('is missing')
    .max(40, 'has too many'),
  /** what a look showed, or the crankcase with a hose held shut */
  findings: array(
    shape({
      id: id(),
      step: reference(90).required('is missing'),
      saw: text(90).optional(),
      ...numbers(FINDING_FIELDS),
    }),
  )
    .required('is missing')
    .max(MAX_FINDINGS, 'has too many'),
  /** states of a recording as they were driven, by their ids: the crankcase since something changed, and before it */
  recorded: array(shape({ id: choice(...STATE_IDS), ...numbers(RECORDED_FIELDS) }))
    .max(STATE_IDS.length, 'has too many')
    .optional()
    .default(undefined),
  /** what it was taken for, in the words of then; and whether the cure held */
  closed: shape({
    fault: reference(LOG_NAME).required('is missing'),
    says: text(200).required('is missing'),
    on: day().required('is missing'),
    fixed: boolean().optional(),
  })
    .optional()
    .default(undefined),
})
export type FaultCase = InferType<typeof caseSchema>
