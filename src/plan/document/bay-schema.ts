/** The bay in the document: what the tape measured, what stands there, what a can may hang on. */
import { array, boolean, string, type InferType } from 'yup'
import { KEEP_OUTS, LIES, MAX_BONNET, MAX_KEEP_OUTS, MAX_MOUNTS, MAX_SPOTS, MOUNTS, POINTS } from './bounds'
import { BOX_FIELDS, LEVEL_FIELDS, SPOT_FIELDS, TURN_FIELDS } from './bay-fields'
import { choice, id, name, numbers, reference, shape, text } from './shapes'

/** The bay as measured with a tape: from a datum the builder can touch, ahead, to the left and up (ISO 8855). */
export const baySchema = shape({
  datum: text(80).required('is missing'),
  ...numbers(LEVEL_FIELDS),
  /** ports by `part.port`, parts that stand in a line and floors of cans by their part; estimated until measured */
  spots: array(
    shape({
      id: reference(90).required('is missing'),
      ...numbers(SPOT_FIELDS),
      /** which way a port points: hoses leave along it */
      points: string()
        .oneOf([...POINTS], `must be one of ${POINTS.join(', ')}`)
        .optional(),
      ...numbers(TURN_FIELDS),
      measured: boolean().required('is missing'),
    }),
  )
    .required('is missing')
    .max(MAX_SPOTS, 'has too many spots'),
  keepOuts: array(
    shape({
      id: id(),
      name: name(),
      kind: choice(...KEEP_OUTS),
      ...numbers(SPOT_FIELDS),
      ...numbers(BOX_FIELDS),
      /** a round body: upright as wide as it is long, or lying as thick as it is high; left out: a box */
      round: boolean().optional(),
      lies: string()
        .oneOf([...LIES], `must be one of ${LIES.join(', ')}`)
        .optional(),
      measured: boolean().required('is missing'),
    }),
  )
    .required('is missing')
    .max(MAX_KEEP_OUTS, 'has too many'),
  /** underside of the bonnet where it was measured */
  bonnet: array(shape({ id: id(), ...numbers(SPOT_FIELDS), measured: boolean().required('is missing') }))
    .required('is missing')
    .max(MAX_BONNET, 'has too many points'),
  /** what a can may hang on */
  mounts: array(
    shape({
      id: id(),
      name: name(),
      kind: choice(...MOUNTS),
      ...numbers(SPOT_FIELDS),
      measured: boolean().required('is missing'),
    }),
  )
    .max(MAX_MOUNTS, 'has too many')
    .optional()
    .default(undefined),
})
export type Bay = InferType<typeof baySchema>
