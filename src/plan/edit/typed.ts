/** What is typed into a field: any unit, a fraction or a dash size, the field's own limits, told in the units in use. */
import { fail, ok, type Result } from '@/core/result'
import { formatNumber } from '@/core/units/format'
import { parseQuantity } from '@/core/units/parse'
import { fromSi, shownUnit, toSi, unitLabel, type UnitChoice } from '@/core/units/units'
import { boreSold } from '../catalogue/hoses'
import { KEPT, type Field } from '../document/fields'

/** Unit that a field is shown in; a plain number's own, if it has one. */
export function fieldUnit(field: Field, units: UnitChoice): string {
  if (field.kept === undefined) return field.unit ?? ''
  if (field.kept === 'Cc') return units.system === 'metric' ? 'cc' : 'cu in'
  if (field.kept === 'Mm2') return units.system === 'metric' ? 'mm2' : 'sq in'
  return shownUnit(KEPT[field.kept][0], units)
}

/** A document's value as it is typed in the units in use, without padding: 5 stays 5. */
export function fieldText(field: Field, units: UnitChoice, value: number, digits = field.digits ?? 4): string {
  const [dimension, unit] = field.kept ? KEPT[field.kept] : []
  const shown = dimension && unit ? fromSi(dimension, toSi(dimension, value, unit), fieldUnit(field, units)) : value
  return String(Number(shown.toPrecision(digits)))
}

/** What was typed as the document keeps it, or a sentence that says what is wrong, in the units in use. */
export function readField(field: Field, units: UnitChoice, text: string): Result<number> {
  const unit = fieldUnit(field, units)
  let value: number
  const sold = field.hose ? boreSold(text) : undefined
  if (sold !== undefined) value = sold
  else if (field.kept) {
    const [dimension, kept] = KEPT[field.kept]
    // a bare fraction is a size in inches, whatever the units
    const parsed = parseQuantity(text, dimension, units, field.hose && /^\s*[\d ]+\/\d+\s*$/.test(text) ? 'in' : unit)
    if (!parsed.ok) return parsed
    value = Number(fromSi(dimension, parsed.value, kept).toPrecision(10))
  } else {
    const parsed = parseQuantity(text, 'share', units, '')
    if (!parsed.ok) return parsed
    value = parsed.value
  }
  // told as figures are everywhere: 2 000 000, not 2000000
  const limitText = (v: number) =>
    `${fieldText(field, units, v).replace(/^\d{5,}$/, (whole) => formatNumber(Number(whole), whole.length))} ${unitLabel(unit)}`.trim()
  if (field.whole && !Number.isInteger(value)) return fail('Must be a whole number.')
  if (value < field.min) return fail(`At least ${limitText(field.min)}.`)
  if (value > field.max) return fail(`At most ${limitText(field.max)}.`)
  return ok(value)
}
