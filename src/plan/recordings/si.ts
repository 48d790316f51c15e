/** A channel's figures in SI: Pa, rpm, shares of 1, K, m/s. */
import { isPressure, unitKey, type ColumnMeaning } from './columns'
import { LOGGER_UNITS, ROLE_FACTS } from './roles'

/** Zero of a scale of temperature in K. */
const ZERO_K: Readonly<Record<string, number>> = { c: 273.15, k: 0, f: 255.372_222 }

/**
 * What takes a figure of a channel to SI; a pressure to gauge, with the surroundings at `ambientPa`.
 *
 * @example
 * import { toSiOf } from '@/plan/recordings/si'
 *
 * const map = { name: 'MAP', unit: 'kPa', role: 'manifold', gauge: false, reason: '' }
 * console.log(toSiOf(map, 101325)(101.325)) // 0
 */
export function toSiOf({ role, unit, gauge }: ColumnMeaning, ambientPa: number): (x: number) => number {
  const { quantity } = ROLE_FACTS[role]
  const key = unitKey(unit)
  if (isPressure(role)) {
    const factor = LOGGER_UNITS.pressure[key] ?? 1000
    return gauge ? (x) => x * factor : (x) => x * factor - ambientPa
  }
  if (quantity === 'temperature') {
    const [factor, zero] = [LOGGER_UNITS.temperature[key] ?? 1, ZERO_K[key] ?? 273.15]
    return (x) => x * factor + zero
  }
  if (quantity === 'none' || quantity === 'ratio') return (x) => x
  const factor = LOGGER_UNITS[quantity][key] ?? (quantity === 'share' ? 0.01 : quantity === 'roadSpeed' ? 1 / 3.6 : 1)
  return (x) => x * factor
}
