/** Reads a figure as a person types it. */
import { fail, ok, type Result } from '../result'
import { DIMENSIONS, shownUnit, toSi, unitLabel, type Dimension, type UnitChoice } from './units'

const ALIASES: Readonly<Record<string, string>> = {
  '"': 'in',
  '″': 'in',
  inch: 'in',
  inches: 'in',
  "'": 'ft',
  '°c': 'C',
  '°f': 'F',
  c: 'C',
  f: 'F',
  '°': 'deg',
  degrees: 'deg',
  kpa: 'kPa',
  pa: 'Pa',
  psig: 'psi',
  inhg: 'inHg',
  '"hg': 'inHg',
  inh2o: 'inH2O',
  'inh₂o': 'inH2O',
  '"h2o': 'inH2O',
  mmhg: 'mmHg',
  hpa: 'hPa',
  mmh2o: 'mmH2O',
  'mmh₂o': 'mmH2O',
  cmh2o: 'cmH2O',
  'cmh₂o': 'cmH2O',
  mb: 'mbar',
  lpm: 'l/min',
  'litre/min': 'l/min',
  'l/m': 'l/min',
  litre: 'l',
  litres: 'l',
  liter: 'l',
  liters: 'l',
  'cu ft/min': 'cfm',
  kmh: 'km/h',
  kph: 'km/h',
  miles: 'mi',
  mile: 'mi',
  oz: 'fl oz',
  floz: 'fl oz',
  'g/m³': 'g/m3',
  percent: '%',
  'cm²': 'cm2',
  'mm²': 'mm2',
  ci: 'cu in',
  cuin: 'cu in',
  cm3: 'cc',
  'cm³': 'cc',
  hours: 'h',
  'r/min': 'rpm',
  nm: 'N m',
  'n·m': 'N m',
  'lb-ft': 'lbf ft',
  'lb ft': 'lbf ft',
  'ft-lb': 'lbf ft',
  'ft lb': 'lbf ft',
  'lbf·ft': 'lbf ft',
  'lb-in': 'lbf in',
  'in-lb': 'lbf in',
}

const FRACTIONS: Readonly<Record<string, string>> = {
  '½': '1/2',
  '⅓': '1/3',
  '⅔': '2/3',
  '¼': '1/4',
  '¾': '3/4',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
}
/** Fractions of one sign as they are typed with a slash: "1½" is "1 1/2". */
const slashed = (text: string): string =>
  text.replaceAll(
    /(\d?)\s*([½⅓⅔¼¾⅛⅜⅝⅞])/g,
    (_, ahead: string, sign: string) => `${ahead && `${ahead} `}${FRACTIONS[sign]!}`,
  )

/**
 * What a number can mean: "5/8", "1 1/2", "12.5", "-3e2" one thing; "12,500" and "12.500" two, twelve thousand and twelve and a half, since
 * both marks stand for both; none when it is no number.
 */
function readNumbers(text: string): readonly number[] {
  const t = text.trim().replace('−', '-')
  const mixed = /^([+-])?(?:(\d+)[ -])?(\d+)\/(\d+)$/.exec(t)
  if (mixed) {
    const den = Number(mixed[4])
    if (den === 0) return []
    return [(mixed[1] === '-' ? -1 : 1) * (Number(mixed[2] ?? 0) + Number(mixed[3]) / den)]
  }
  // "12 500", "12 500.5", "12'500": spaces and apostrophes as thousands
  const plain = t.replaceAll(/(?<=\d)[ \u00a0\u2009\u202f'’](?=\d{3}(\D|$))/g, '')
  const marks = plain.match(/[.,]/g) ?? []
  const number = (s: string): readonly number[] => (/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(s) ? [Number(s)] : [])
  if (marks.length === 0) return number(plain)
  const [first, last] = [marks[0]!, marks.at(-1)!]
  const grouped = (mark: string, s: string) => new RegExp(`^[+-]?[1-9]\\d{0,2}(\\${mark}\\d{3})+$`).test(s)
  if (marks.length === 1) {
    const decimal = number(plain.replace(',', '.'))
    return grouped(first, plain) ? [Number(plain.replace(first, '')), ...decimal] : decimal
  }
  const at = plain.lastIndexOf(last)
  // one mark again and again parts thousands; of two the last is the decimal one
  if (first === last) return grouped(first, plain) ? [Number(plain.replaceAll(first, ''))] : []
  const whole = plain.slice(0, at)
  return grouped(first, whole) ? number(`${whole.replaceAll(first, '')}.${plain.slice(at + 1)}`) : []
}

/** Said after a pressure for one below the surroundings. */
const VACUUM = /\s*(?:of )?(?:vacuum|vac\.?|suction|depression)$/i

type Typed = { readonly text: string; readonly below: boolean }
const typedOf = (text: string, dimension: Dimension): Typed => {
  const whole = slashed(text.trim())
  const below = dimension === 'pressure' && VACUUM.test(whole)
  return { text: below ? whole.replace(VACUUM, '') : whole, below }
}

/**
 * Values in SI that typed `text` can mean, a number or fraction with an optional unit of `dimension`: one, or two where a comma or point can
 * part thousands as well as decimals; with no unit `bareUnit`, else the one that `choice` shows. A pressure "of vacuum" is below zero. Fails
 * with a sentence for the person at the field, never with a NaN.
 *
 * @example
 * import { quantityReadings } from '@/core/units/parse'
 *
 * const metric = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
 * console.log(quantityReadings('12,500', 'distance', metric)) // { ok: true, value: [ 12500000, 12500 ] }
 */
export function quantityReadings(
  text: string,
  dimension: Dimension,
  choice: UnitChoice,
  bareUnit: string = shownUnit(dimension, choice),
): Result<readonly number[]> {
  const { text: trimmed, below } = typedOf(text, dimension)
  if (trimmed === '') return fail('Type a number.')
  const match = /^([+\-−]?[\d.,/ \u00a0\u2009\u202f'’-]*(?:\d|\.)(?:e[+-]?\d+)?)\s*(.*)$/i.exec(trimmed)
  const values = match ? readNumbers(match[1]!) : []
  if (!match || values.length === 0 || !values.every(Number.isFinite))
    return fail(`“${text.trim().slice(0, 20)}” is not a number.`)
  const typed = match[2]!.trim()
  const known = DIMENSIONS[dimension] as Readonly<Record<string, number>>
  const unit = typed === '' ? bareUnit : Object.hasOwn(known, typed) ? typed : (ALIASES[typed.toLowerCase()] ?? typed)
  if (!Object.hasOwn(known, unit)) {
    const offered = Object.keys(known)
      .filter((u) => u !== '')
      .map(unitLabel)
      .join(', ')
    return fail(`${typed.slice(0, 12)} is not a unit here. Use ${offered}.`)
  }
  return ok(values.map((value) => toSi(dimension, below ? -Math.abs(value) : value, unit)))
}

/**
 * The value in SI of typed `text`, where it can mean but one; else it asks which.
 *
 * @example
 * import { parseQuantity } from '@/core/units/parse'
 *
 * const metric = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
 * console.log(parseQuantity('5/8 in', 'length', metric)) // { ok: true, value: 0.015875 }
 */
export function parseQuantity(
  text: string,
  dimension: Dimension,
  choice: UnitChoice,
  bareUnit: string = shownUnit(dimension, choice),
): Result<number> {
  const read = quantityReadings(text, dimension, choice, bareUnit)
  if (!read.ok) return read
  return read.value.length === 1 ? ok(read.value[0]!) : fail(whichNumber(text))
}

/**
 * The question about a number that can mean two.
 *
 * @example
 * import { whichNumber } from '@/core/units/parse'
 *
 * console.log(whichNumber('12,500')) // 'Is that 12500 or 12.5? Type it without a mark.'
 */
export function whichNumber(text: string): string {
  const [thousands, decimals] = readNumbers(/[\d.,  '’]+/.exec(text)?.[0] ?? '')
  return `Is that ${thousands} or ${decimals}? Type it without a mark.`
}
