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
}

/** "5/8", "1 1/2", "12.5", "12,5", "-3e2"; undefined when it is no number. */
function readNumber(text: string): number | undefined {
  const t = text.trim().replace('−', '-')
  const mixed = /^([+-])?(?:(\d+)[ -])?(\d+)\/(\d+)$/.exec(t)
  if (mixed) {
    const den = Number(mixed[4])
    if (den === 0) return undefined
    return (mixed[1] === '-' ? -1 : 1) * (Number(mixed[2] ?? 0) + Number(mixed[3]) / den)
  }
  // "12 500" and "12 500.5": spaces as thousands
  const plain = t.replaceAll(/(?<=\d)[  ](?=\d{3}(\D|$))/g, '').replace(',', '.')
  return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain) ? Number(plain) : undefined
}

/** Said after a pressure for one below the surroundings. */
const VACUUM = /\s*(?:of )?(?:vacuum|vac\.?|suction|depression)$/i

/**
 * Value in SI of typed `text`: a number or fraction with an optional unit of `dimension`; with none, `bareUnit`, else the unit that
 * `choice` shows. A pressure "of vacuum" is below zero. Fails with a sentence for the person at the field, never with a NaN.
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
  const whole = text.trim()
  const below = dimension === 'pressure' && VACUUM.test(whole)
  const trimmed = below ? whole.replace(VACUUM, '') : whole
  if (trimmed === '') return fail('Type a number.')
  const match = /^([+\-−]?[\d.,/  -]*(?:\d|\.)(?:e[+-]?\d+)?)\s*(.*)$/i.exec(trimmed)
  const value = match ? readNumber(match[1]!) : undefined
  if (!match || value === undefined || !Number.isFinite(value))
    return fail(`“${trimmed.slice(0, 20)}” is not a number.`)
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
  return ok(toSi(dimension, below ? -Math.abs(value) : value, unit))
}
