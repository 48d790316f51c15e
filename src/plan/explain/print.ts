/** A working as text: every number with enough digits for who follows it with a calculator, in SI, and as the builder reads it beside. */
import { DIMENSIONS, fromSi, shownUnit, unitLabel, type Dimension, type UnitChoice } from '@/core/units/units'
import { formatNumber, quantityText } from '@/core/units/format'
import type { HandCheck, WorkingLine } from './draft'
import { isStep } from './draft'
import type { FigureQuantity } from './figure'

/** Digits of a number in a working; pressures by their thousandth of a pascal, since what counts is often a small difference of two. */
const DIGITS = 8

/** A number as a calculator takes it: a plain point, a minus sign, powers of ten as e−5. */
export function exactNumber(value: number, dimension: Dimension | 'number' = 'number'): string {
  if (value === 0) return '0'
  const size = Math.abs(value)
  const text =
    dimension === 'pressure' && size < 1e7
      ? value.toFixed(Math.max(4, DIGITS - 1 - Math.floor(Math.log10(size)))).replace(/\.?0+$/, '')
      : size >= 1e-4 && size < 1e7
        ? String(Number(value.toPrecision(DIGITS)))
        : value.toExponential(DIGITS - 1).replace(/\.?0+e/, 'e')
  return text.replaceAll('-', '−').replace('e+', 'e')
}

/** SI unit of a dimension as it is printed; nothing for a bare number. */
export const siUnit = (dimension: Dimension | 'number'): string =>
  dimension === 'number' ? '' : unitLabel(Object.keys(DIMENSIONS[dimension])[0]!)

/**
 * "0.0159 m"
 *
 * @example
 * import { exactQuantity } from '@/plan/explain/print'
 *
 * console.log(exactQuantity({ si: 0.0159, dimension: 'length' })) // '0.0159 m'
 */
export const exactQuantity = ({ si, dimension }: FigureQuantity): string =>
  `${exactNumber(si, dimension)} ${siUnit(dimension)}`.trim()

/**
 * As the builder reads it, where that is not the SI number itself: "15.9 mm".
 *
 * @example
 * import { shownQuantity } from '@/plan/explain/print'
 *
 * console.log(shownQuantity({ si: 0.0159, dimension: 'length' }, { system: 'metric', pressure: 'kPa', flow: 'l/min' })) // '15.90 mm'
 */
export function shownQuantity({ si, dimension }: FigureQuantity, units: UnitChoice): string | undefined {
  if (dimension === 'number') return undefined
  const shown = shownUnit(dimension, units)
  return unitLabel(shown) === siUnit(dimension) ? undefined : quantityText(si, dimension, units, 4)
}

/** A line: "Re = 4·m/(π·D·μ) = 8123.4" or "D = 0.0159 m". */
export const lineText = (line: WorkingLine): string =>
  isStep(line)
    ? `${line.symbol} = ${line.expression} = ${exactQuantity(line.value)}`
    : `${line.symbol} = ${exactQuantity(line.value)}`

/** The last line: the figure in the builder's units, by what its SI value is divided (and, of a temperature, lessened). */
export function resultText(symbol: string, { si, dimension }: FigureQuantity, units: UnitChoice, digits = 3): string {
  if (dimension === 'number') return `${symbol} = ${formatNumber(si, digits)}`
  const unit = shownUnit(dimension, units)
  const one = fromSi(dimension, 1, unit) - fromSi(dimension, 0, unit)
  const zero = fromSi(dimension, 0, unit)
  const offset = zero === 0 ? '' : ` ${zero < 0 ? '−' : '+'} ${exactNumber(Math.abs(zero))}`
  const scaled = Math.abs(one - 1) < 1e-12 ? symbol : `${symbol}/${exactNumber(1 / one)}`
  return `${scaled}${offset} = ${quantityText(si, dimension, units, digits)}`
}

/** "9.3e−4 = 9.3e−4: what flows in at this joint flows out" */
export const checkText = ({ left, right, values }: HandCheck): string =>
  `${left} = ${exactNumber(values[0])}, ${right} = ${exactNumber(values[1])}`
