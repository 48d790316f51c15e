/** Every unit Ivent shows or accepts, and the only place where one becomes another. SI base of each dimension: factor 1, offset 0. */

export const DIMENSIONS = {
  pressure: {
    Pa: 1,
    kPa: 1e3,
    bar: 1e5,
    mbar: 100,
    hPa: 100,
    psi: 6894.757,
    inHg: 3386.389,
    inH2O: 249.0889,
    mmHg: 133.3224,
    mmH2O: 9.80665,
    cmH2O: 98.0665,
  },
  /** mass flow as standard volume: 101.325 kPa, 20 C; kg/s is the base */
  gasFlow: { 'kg/s': 1, 'g/s': 1e-3, 'l/min': 1.204119e-3 / 60, cfm: (1.204119e-3 * 28.316847) / 60 },
  length: { m: 1, mm: 1e-3, cm: 1e-2, um: 1e-6, in: 0.0254, ft: 0.3048 },
  distance: { m: 1, km: 1e3, mi: 1609.344 },
  altitude: { m: 1, ft: 0.3048 },
  volume: { m3: 1, l: 1e-3, cc: 1e-6, ml: 1e-6, 'cu in': 1.6387064e-5, 'fl oz': 2.95735e-5 },
  area: { m2: 1, cm2: 1e-4, mm2: 1e-6, 'sq in': 6.4516e-4 },
  speed: { 'm/s': 1, 'km/h': 1 / 3.6, mph: 0.44704, 'ft/s': 0.3048 },
  temperature: { K: 1, C: 1, F: 5 / 9 },
  liquidRate: { 'm3/s': 1, 'ml/h': 1e-6 / 3600, 'fl oz/h': 2.95735e-5 / 3600 },
  rotation: { 'rad/s': 1, rpm: Math.PI / 30 },
  angle: { rad: 1, deg: Math.PI / 180 },
  time: { s: 1, min: 60, h: 3600 },
  share: { '': 1, '%': 0.01 },
  /** liquid a distance: what a can gathers, what the intake gets */
  perDistance: { 'm3/m': 1, 'ml/1 000 km': 1e-12, 'fl oz/1 000 mi': 2.95735e-5 / 1609344 },
  concentration: { 'kg/m3': 1, 'g/m3': 1e-3 },
  torque: { 'N m': 1, 'lbf in': 0.112985, 'lbf ft': 1.355818 },
  mass: { kg: 1, g: 1e-3, lb: 0.45359237 },
} as const

const OFFSETS: Readonly<Record<string, number>> = { C: 273.15, F: (459.67 * 5) / 9 }

export type Dimension = keyof typeof DIMENSIONS
export type Unit<D extends Dimension = Dimension> = D extends Dimension ? keyof (typeof DIMENSIONS)[D] & string : never

const factorOf = (dimension: Dimension, unit: string): number | undefined =>
  (DIMENSIONS[dimension] as Readonly<Record<string, number>>)[unit]

/**
 * SI value of `value` in `unit`. Unknown units are a programming error and throw.
 *
 * @example
 * import { toSi } from '@/core/units/units'
 *
 * console.log(toSi('pressure', 12, 'inHg')) // 40636.668000000005
 */
export function toSi(dimension: Dimension, value: number, unit: string): number {
  const factor = factorOf(dimension, unit)
  if (factor === undefined) throw new RangeError(`no unit ${unit} of ${dimension}`)
  return value * factor + (dimension === 'temperature' ? (OFFSETS[unit] ?? 0) : 0)
}

/**
 * Value in `unit` of an SI value; the inverse of `toSi`.
 *
 * @example
 * import { fromSi } from '@/core/units/units'
 *
 * console.log(fromSi('temperature', 293.15, 'C')) // 20
 */
export function fromSi(dimension: Dimension, si: number, unit: string): number {
  const factor = factorOf(dimension, unit)
  if (factor === undefined) throw new RangeError(`no unit ${unit} of ${dimension}`)
  return (si - (dimension === 'temperature' ? (OFFSETS[unit] ?? 0) : 0)) / factor
}

export type UnitSystem = 'metric' | 'imperial'
export type UnitChoice = {
  readonly system: UnitSystem
  readonly pressure: 'kPa' | 'inHg' | 'inH2O' | 'psi'
  readonly flow: 'l/min' | 'cfm'
}

const SHOWN: Readonly<Record<Dimension, readonly [metric: string, imperial: string]>> = {
  pressure: ['kPa', 'inHg'],
  gasFlow: ['l/min', 'cfm'],
  length: ['mm', 'in'],
  distance: ['km', 'mi'],
  altitude: ['m', 'ft'],
  volume: ['ml', 'fl oz'],
  area: ['cm2', 'sq in'],
  speed: ['m/s', 'ft/s'],
  temperature: ['C', 'F'],
  liquidRate: ['ml/h', 'fl oz/h'],
  rotation: ['rpm', 'rpm'],
  angle: ['deg', 'deg'],
  time: ['h', 'h'],
  share: ['%', '%'],
  perDistance: ['ml/1 000 km', 'fl oz/1 000 mi'],
  concentration: ['g/m3', 'g/m3'],
  torque: ['N m', 'lbf ft'],
  mass: ['kg', 'lb'],
}

/**
 * The unit that `choice` shows a dimension in.
 *
 * @example
 * import { shownUnit } from '@/core/units/units'
 *
 * const metric = { system: 'metric', pressure: 'kPa', flow: 'l/min' } as const
 * console.log(shownUnit('pressure', metric)) // 'kPa'
 */
export function shownUnit(dimension: Dimension, choice: UnitChoice): string {
  if (dimension === 'pressure') return choice.pressure
  if (dimension === 'gasFlow') return choice.flow
  return SHOWN[dimension][choice.system === 'metric' ? 0 : 1]
}

/**
 * How a unit is printed: the degree sign, the superscript.
 *
 * @example
 * import { unitLabel } from '@/core/units/units'
 *
 * console.log(unitLabel('C')) // '°C'
 */
export function unitLabel(unit: string): string {
  return (
    {
      C: '°C',
      F: '°F',
      deg: '°',
      'g/m3': 'g/m³',
      cm2: 'cm²',
      mm2: 'mm²',
      'sq in': 'in²',
      'cu in': 'in³',
      inH2O: 'inH₂O',
      mmH2O: 'mmH₂O',
      cmH2O: 'cmH₂O',
      um: 'µm',
      'ml/1 000 km': 'ml per 1 000 km',
      'fl oz/1 000 mi': 'fl oz per 1 000 mi',
    }[unit] ?? unit
  )
}
