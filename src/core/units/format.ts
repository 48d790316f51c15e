/** Prints a figure with the digits that it deserves. */
import { fromSi, shownUnit, unitLabel, type Dimension, type UnitChoice } from './units'

export const NO_FIGURE = '–'

/**
 * `digits` significant digits, at most `most` of them after the point and none from a thousand up, a real minus sign, thin thousands from 10 000; what rounds to
 * nothing is "0".
 *
 * @example
 * import { formatNumber } from '@/core/units/format'
 *
 * console.log(formatNumber(-0.8734, 2)) // '−0.87'
 */
export function formatNumber(value: number, digits = 3, most = 3): string {
  if (!Number.isFinite(value)) return NO_FIGURE
  const size = Math.abs(value)
  // as it will be rounded: 99.97 to three digits is 100, not 100.0
  const whole = size < 1e-12 ? 1 : Math.floor(Math.log10(size * (1 + 0.5 / 10 ** digits))) + 1
  const decimals = whole > 3 ? 0 : Math.min(most, Math.max(0, digits - whole))
  const rounded = (whole > digits ? Number(size.toPrecision(digits)) : size).toFixed(decimals)
  if (size < 1 && Number(rounded) === 0) return '0'
  const sign = value < 0 ? '−' : ''
  // only a number without decimals has so many digits ahead of them
  return sign + (rounded.length > 4 && decimals === 0 ? rounded.replaceAll(/\B(?=(\d{3})+$)/g, ' ') : rounded)
}

/** Finer than this no gauge on a car reads, whatever the digits asked for. */
const MOST_DECIMALS: Readonly<Record<string, number>> = { kPa: 2, inHg: 2, inH2O: 1, psi: 2, rpm: 0 }

export type ShownQuantity = { readonly text: string; readonly unit: string }

/**
 * An SI value as text and unit label in the units chosen.
 *
 * @example
 * import { formatQuantity } from '@/core/units/format'
 *
 * const metric = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
 * console.log(formatQuantity(1234, 'pressure', metric)) // { text: '1.23', unit: 'kPa' }
 */
export function formatQuantity(si: number, dimension: Dimension, choice: UnitChoice, digits = 3): ShownQuantity {
  const unit = shownUnit(dimension, choice)
  return { text: formatNumber(fromSi(dimension, si, unit), digits, MOST_DECIMALS[unit]), unit: unitLabel(unit) }
}

/**
 * As one string, for sentences.
 *
 * @example
 * import { quantityText } from '@/core/units/format'
 *
 * const metric = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
 * console.log(quantityText(1234, 'pressure', metric)) // '1.23 kPa'
 */
export function quantityText(si: number, dimension: Dimension, choice: UnitChoice, digits = 3): string {
  const s = formatQuantity(si, dimension, choice, digits)
  return s.unit === '' ? s.text : s.unit === '°' ? `${s.text}°` : `${s.text} ${s.unit}`
}
