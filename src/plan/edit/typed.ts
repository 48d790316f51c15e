/** What is typed into a field: any unit, a fraction or a dash size, the field's own limits, in the units in use. */
import { fail, ok, type Result } from '@/core/result'
import { formatNumber } from '@/core/units/format'
import { quantityReadings, whichNumber } from '@/core/units/parse'
import { fromSi, shownUnit, toSi, unitLabel, type UnitChoice } from '@/core/units/units'
import { boreSold } from '../catalogue/hoses'
import { KEPT, type Field } from '../document/fields'

/**
 * Unit that a field is shown in; a plain number's own, if it has one.
 *
 * @example
 * import { fieldUnit } from '@/plan/edit/typed'
 *
 * console.log(fieldUnit({ kept: 'Mm', label: 'Bore', min: 1, max: 100 }, { system: 'metric', pressure: 'kPa', flow: 'l/min' })) // 'mm'
 */
export function fieldUnit(field: Field, units: UnitChoice): string {
  if (field.kept === undefined) return field.unit ?? ''
  if (field.kept === 'Cc') return units.system === 'metric' ? 'cc' : 'cu in'
  if (field.kept === 'Mm2') return units.system === 'metric' ? 'mm2' : 'sq in'
  return shownUnit(KEPT[field.kept][0], units)
}

/**
 * A document's value as it is typed in the units in use, without padding: 5 stays 5.
 *
 * @example
 * import { fieldText } from '@/plan/edit/typed'
 *
 * console.log(fieldText({ kept: 'Mm', label: 'Bore', min: 1, max: 100 }, { system: 'metric', pressure: 'kPa', flow: 'l/min' }, 15.875)) // '15.88'
 */
export function fieldText(field: Field, units: UnitChoice, value: number, digits = field.digits ?? 4): string {
  const [dimension, unit] = field.kept ? KEPT[field.kept] : []
  const shown = dimension && unit ? fromSi(dimension, toSi(dimension, value, unit), fieldUnit(field, units)) : value
  const plain = String(Number(shown.toPrecision(digits)))
  // three decimals could be read as thousands when they are typed again
  return /^-?[1-9]\d{0,2}\.\d{3}$/.test(plain) ? `${plain}0` : plain
}

/** Pressure outside where a site does not say it, Pa. */
const STANDARD_PA = 101_325
/** Units in which a vacuum gauge is marked, and words for what it reads. */
const GAUGE_UNITS = /(hg|h2o|h₂o)\s*$/i
const SAYS_ABSOLUTE = /\s*abs(olute)?\.?$/i

/** An absolute pressure that may have been read as a vacuum, Pa: as it was said, or the question which it was. */
function absolutePressure(field: Field, units: UnitChoice, text: string, outsidePa: number): Result<readonly number[]> {
  const said = SAYS_ABSOLUTE.test(text)
  const read = quantityReadings(text.replace(SAYS_ABSOLUTE, ''), 'pressure', units, fieldUnit(field, units))
  if (!read.ok) return read
  // of vacuum it is below the pressure outside
  const values = read.value.map((v) => (v < 0 ? outsidePa + v : v))
  const gauge = outsidePa - values[0]!
  const couldBe = (pa: number) => pa >= field.min * 1000 && pa <= field.max * 1000
  if (!said && read.value[0]! > 0 && GAUGE_UNITS.test(text) && couldBe(gauge) && couldBe(values[0]!))
    return fail(`Is that what a vacuum gauge shows? Type “${text.trim()} vacuum”, or “${text.trim()} absolute”.`)
  return ok(values)
}

/** Values that a typed text can mean, as the document keeps them. */
function keptReadings(field: Field, units: UnitChoice, text: string, outsidePa: number): Result<readonly number[]> {
  const sold = field.hose ? boreSold(text) : undefined
  if (sold !== undefined) return ok([sold])
  if (!field.kept) return quantityReadings(text, 'share', units, '')
  const [dimension, kept] = KEPT[field.kept]
  // a bare fraction is a size in inches, whatever the units
  const bare = field.hose && /^\s*([\d ]+\/\d+|\d*\s*[½⅓⅔¼¾⅛⅜⅝⅞])\s*$/.test(text) ? 'in' : fieldUnit(field, units)
  const read = field.absolute
    ? absolutePressure(field, units, text, outsidePa)
    : quantityReadings(text, dimension, units, bare)
  return read.ok ? ok(read.value.map((v) => Number(fromSi(dimension, v, kept).toPrecision(10)))) : read
}

/**
 * What was typed as the document keeps it, or a sentence that says what is wrong, in the units in use. Where a comma or a point can part
 * thousands as well as decimals, the field's limits decide; where both fit, it is asked.
 * @param outsidePa pressure outside, Pa, for what is typed as a vacuum
 *
 * @example
 * import { readField } from '@/plan/edit/typed'
 *
 * console.log(readField({ kept: 'Mm', label: 'Bore', min: 1, max: 100 }, { system: 'metric', pressure: 'kPa', flow: 'l/min' }, '15,9')) // { ok: true, value: 15.9 }
 */
export function readField(field: Field, units: UnitChoice, text: string, outsidePa = STANDARD_PA): Result<number> {
  const unit = fieldUnit(field, units)
  const read = keptReadings(field, units, text, outsidePa)
  if (!read.ok) return read
  const inside = read.value.filter((v) => v >= field.min && v <= field.max && (!field.whole || Number.isInteger(v)))
  if (inside.length > 1) return fail(whichNumber(text))
  const value = inside[0] ?? read.value.at(-1)!
  // written as figures are everywhere: 2 000 000, not 2000000
  const limitText = (v: number) =>
    `${fieldText(field, units, v).replace(/^\d{5,}$/, (whole) => formatNumber(Number(whole), whole.length))} ${unitLabel(unit)}`.trim()
  if (field.whole && !Number.isInteger(value)) return fail('Must be a whole number.')
  if (value < field.min) return fail(`At least ${limitText(field.min)}.`)
  if (value > field.max) return fail(`At most ${limitText(field.max)}.`)
  return ok(value)
}
