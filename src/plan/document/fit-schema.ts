/** Parts and Fit in the document: how ends are made, what lies in the drawer, what is ticked on the card. */
import { array, string, type InferType } from 'yup'
import { BRACKET_SHAPES, MAX_PARTS, MAX_ENDS, MAX_OWN, MAX_STOCK, MAX_TICKS } from './bounds'
import { ESTIMATE_FIELDS, PIECE_FIELDS, STOCK_FIELDS, TICK_FIELDS } from './fit-fields'
import { id, name, numbers, reference, shape, text } from './shapes'

/** Names under which pieces, steps and ends are known: longer than an id, since they name a line and what is done to it. */
const key = () => reference(90).required('is missing')

export const fitSchema = shape({
  /** steps of the card that are done, by plan and step, with the words that they had then: others later, and the tick holds no more */
  ticks: array(
    shape({
      id: key(),
      plan: reference(40).required('is missing'),
      step: key(),
      says: text(600).required('is missing'),
      at: text(40).required('is missing'),
      ...numbers(TICK_FIELDS),
    }),
  )
    .required('is missing')
    .max(MAX_TICKS, 'has too many'),
  /** a piece's price and how many of it are in the drawer */
  stock: array(shape({ id: key(), ...numbers(STOCK_FIELDS) }))
    .required('is missing')
    .max(MAX_STOCK, 'has too many'),
  /** fittings of the builder's own, beside the tables: what each fits on, what it offers, its bore */
  pieces: array(
    shape({
      id: id(),
      name: name(),
      from: reference(40).required('is missing'),
      to: reference(40).required('is missing'),
      ...numbers(PIECE_FIELDS),
    }),
  )
    .max(MAX_OWN, 'has too many')
    .optional()
    .default(undefined),
  /** by can: how its bracket is bent, and of what sheet, where the builder has chosen */
  brackets: array(
    shape({
      id: id(),
      shape: string()
        .oneOf(BRACKET_SHAPES, `must be one of ${BRACKET_SHAPES.join(', ')}`)
        .optional(),
      alloy: text(40).optional(),
    }),
  )
    .max(MAX_PARTS, 'has too many')
    .optional()
    .default(undefined),
  /** what a customer is asked for the job */
  estimate: shape({ currency: text(8).optional(), ...numbers(ESTIMATE_FIELDS) })
    .optional()
    .default(undefined),
  /** forms of ports that were looked at, by `part.port` */
  ends: array(shape({ id: key(), form: reference(40).required('is missing') }))
    .required('is missing')
    .max(MAX_ENDS, 'has too many'),
})
export type FitNotes = InferType<typeof fitSchema>
