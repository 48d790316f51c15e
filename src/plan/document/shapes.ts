/** What schemas are made of: numbers with their field's limits, texts, names, records that know their fields. */
import { number, object, string, type NumberSchema } from 'yup'
import { ID, isSharedName, NUL } from './bounds'
import { isCurve, type Curve, type Field } from './fields'

/** A number inside its field's limits, with messages for the person at the field. */
export function numberOf(f: Field) {
  const limited = number()
    .typeError('must be a number')
    .test('finite', 'must be a number', (v) => v === undefined || v === null || Number.isFinite(v))
    .min(f.min, `must be at least ${f.min}`)
    .max(f.max, `must be at most ${f.max}`)
  const whole = f.whole ? limited.integer('must be a whole number') : limited
  return f.optional ? whole.optional() : whole.required('is missing')
}
type NumberOf<F> = F extends { readonly optional: true } ? NumberSchema<number | undefined> : NumberSchema<number>
type NumbersOf<T> = { [K in keyof T as T[K] extends Curve ? never : K]: NumberOf<T[K]> }
/** Every plain number of a table of fields. */
export const numbers = <T extends Readonly<Record<string, Field | Curve>>>(table: T) =>
  Object.fromEntries(
    Object.entries(table).flatMap(([key, f]) => (isCurve(f) ? [] : [[key, numberOf(f)]])),
  ) as unknown as NumbersOf<T>
/** A number that has to be there, within the limits of its field. */
export const required = (f: Field) => numberOf(f) as NumberSchema<number>
/** A text of at most `max` characters. */
export const text = (max: number) =>
  string()
    .typeError('must be text')
    .max(max, `must be at most ${max} characters`)
    .test('characters', 'has a character that cannot be kept', (v) => v === undefined || v === null || !NUL.test(v))
/** A name as a builder gives it: trimmed, not empty. */
export const name = () => text(80).required('is missing').min(1, 'is missing').matches(/\S/, 'is missing')
/** Text that something is looked up by. */
export const reference = (max: number) =>
  text(max).test('shared', '${value} cannot be a name here; choose another', (v) => !isSharedName(v))
/** The id of something in a document. */
export const id = () => reference(40).required('is missing').matches(ID, 'may hold letters, digits, - and _ only')
/** One of a few words. */
export const choice = <const T extends string>(...values: T[]) =>
  string()
    .oneOf(values, `must be one of ${values.join(', ')}`)
    .required('is missing')
/** A record of these fields and no others. */
export const shape = <S extends Parameters<typeof object>[0] & object>(fields: S) =>
  object(fields as S)
    .noUnknown('has a field that is not known: ${unknown}')
    .required('is missing')

/** A record with any of these keys, each of one shape. */
export const byKey = <K extends string, V>(keys: readonly K[], make: () => V) =>
  Object.fromEntries(keys.map((k) => [k, make()])) as unknown as Record<K, V>
