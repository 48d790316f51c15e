/**
 * Whether a log entry is sound, found quickly: there may be thousands, and Yup takes a tenth of a millisecond for each. It answers as
 * `logEntrySchema` does (a property test holds the two together); what is wrong with one that is not, the schema says.
 */
import { STATE_IDS } from '@/core/engine/states'
import { isRecord, type Doc } from './count'
import type { Field } from './fields'
import { LOG_FIELDS, READING_FIELDS } from './log-fields'
import { ID, isSharedName, LEVELS, LOG_KINDS, LOG_NAME, LOG_NOTE, LOOKS, NUL, SEEN } from './bounds'
import { isDay } from './schema'

const oneOf = (list: readonly string[], x: unknown): boolean => list.some((v) => v === x)
const text = (x: unknown, most: number): boolean => typeof x === 'string' && x.length <= most && !NUL.test(x)
const maybe = (x: unknown, most: number): boolean => x === undefined || text(x, most)
const maybeReference = (x: unknown, most: number): boolean => maybe(x, most) && !isSharedName(x)

function figures(x: Doc, fields: Readonly<Record<string, Field>>): boolean {
  for (const key in fields) {
    const f = fields[key]!
    const v = x[key]
    if (v === undefined && f.optional) continue
    if (typeof v !== 'number' || !(v >= f.min && v <= f.max) || (f.whole && !Number.isInteger(v))) return false
  }
  return true
}
const known = (x: Doc, ...names: readonly Readonly<Record<string, unknown>>[]): boolean => {
  for (const key in x) if (!names.some((n) => Object.hasOwn(n, key))) return false
  return true
}

const OWN = { id: 0, date: 0, kind: 0, seen: 0, looks: 0, level: 0, plan: 0, part: 0, reading: 0, note: 0 }
const isReading = (x: unknown): boolean =>
  isRecord(x) &&
  known(x, READING_FIELDS, { state: 0, at: 0 }) &&
  oneOf(STATE_IDS, x.state) &&
  maybeReference(x.at, LOG_NAME) &&
  figures(x, READING_FIELDS)

/** Whether a value from outside is an entry of the log that a document may hold. */
export const isSoundEntry = (x: unknown): boolean =>
  isRecord(x) &&
  known(x, OWN, LOG_FIELDS) &&
  text(x.id, LOG_NAME) &&
  ID.test(x.id as string) &&
  !isSharedName(x.id) &&
  typeof x.date === 'string' &&
  isDay(x.date) &&
  oneOf(LOG_KINDS, x.kind) &&
  figures(x, LOG_FIELDS) &&
  (x.seen === undefined || oneOf(SEEN, x.seen)) &&
  (x.looks === undefined || oneOf(LOOKS, x.looks)) &&
  (x.level === undefined || oneOf(LEVELS, x.level)) &&
  maybeReference(x.plan, LOG_NAME) &&
  maybeReference(x.part, LOG_NAME) &&
  (x.reading === undefined || isReading(x.reading)) &&
  maybe(x.note, LOG_NOTE)
