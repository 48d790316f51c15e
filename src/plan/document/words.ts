/** How figures and states are written in sentences, in the units of the build. */
import type { StateId } from '@/core/engine/states'
import { formatNumber, quantityText } from '@/core/units/format'
import { toSi, type UnitChoice } from '@/core/units/units'

export const STATE_NAMES: Readonly<Record<StateId, string>> = {
  idle: 'Idle',
  cruise: 'Cruise',
  pull: 'Pull',
  spool: 'Spool',
  boost: 'Boost',
  overrun: 'Overrun',
}

/**
 * A name at the head of a sentence or a row: "hose clamp" as Hose clamp.
 *
 * @example
 * import { capital } from '@/plan/document/words'
 *
 * console.log(capital('hose clamp')) // 'Hose clamp'
 */
export const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`

/**
 * A name inside a sentence: "Cam cover" as cam cover, "PCV valve" as it is.
 *
 * @example
 * import { lowered } from '@/plan/document/words'
 *
 * console.log([lowered('Cam cover'), lowered('PCV valve')]) // [ 'cam cover', 'PCV valve' ]
 */
export const lowered = (name: string): string =>
  /^[A-Z][^A-Z]/.test(name) ? name.charAt(0).toLowerCase() + name.slice(1) : name

/** The name of a part or line inside a sentence; nothing where there is none. */
export const loweredName = (x: { readonly name: string } | undefined): string => (x ? lowered(x.name) : '')

/**
 * "at idle", "in boost"
 *
 * @example
 * import { atState } from '@/plan/document/words'
 *
 * console.log([atState('idle'), atState('boost')]) // [ 'at idle', 'in boost' ]
 */
export const atState = (id: StateId): string =>
  `${id === 'idle' || id === 'cruise' || id === 'spool' ? 'at' : 'in'} ${STATE_NAMES[id].toLowerCase()}`

/** "9.00 mm" as 9 mm: a size that is chosen is not measured to the hundredth. */
const unpadded = (text: string): string =>
  text.replace(/^(\d+)\.(\d*?)0+(?=\s|$)/, (_, whole: string, rest: string) => (rest ? `${whole}.${rest}` : whole))

/** A label that names the flow a figure is stated at, in the flow unit of a build: "Drop at 100 l/min" as Drop at 3.53 cfm. */
export const labelIn = (label: string, units: UnitChoice): string =>
  units.flow === 'l/min'
    ? label
    : label.replace('100 l/min', quantityText(toSi('gasFlow', 100, 'l/min'), 'gasFlow', units, 3))

/**
 * Figures in SI as text in a build's units.
 *
 * @example
 * import { unitFormatter } from '@/plan/document/words'
 *
 * const say = unitFormatter({ system: 'metric', pressure: 'kPa', flow: 'l/min' })
 * console.log(say.pressure(1500)) // '1.5 kPa'
 */
export function unitFormatter(units: UnitChoice) {
  const text =
    (dimension: Parameters<typeof quantityText>[1], digits: number) =>
    (si: number): string =>
      quantityText(si, dimension, units, digits)
  const pressure = text('pressure', 2)
  return {
    pressure,
    /** with a plus in front of what is above the surroundings */
    signed: (pa: number) => (pa > 0 ? '+' : '') + pressure(pa),
    flow: text('gasFlow', 3),
    distance: text('distance', 3),
    volume: text('volume', 3),
    perDistance: text('perDistance', 3),
    temperature: text('temperature', 2),
    speed: text('speed', 3),
    length: text('length', 3),
    torque: text('torque', 2),
    /** a share of 1, with its sign */
    percent: (share: number) => `${share > 0 ? '+' : ''}${formatNumber(100 * share, 2)} %`,
    mass: text('mass', 2),
    /** of a length in mm */
    mm: (mm: number) => unpadded(text('length', 3)(toSi('length', mm, 'mm'))),
  }
}
export type UnitFormatter = ReturnType<typeof unitFormatter>

/** By the language's own formatter: a date library's words weigh 10 kB on every page. */
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })

/**
 * '2026-05-30' as 30 May 2026.
 *
 * @example
 * import { dayText } from '@/plan/document/words'
 *
 * console.log(dayText('2026-05-30')) // '30 May 2026'
 */
export const dayText = (iso: string): string => DAY.format(new Date(`${iso}T00:00Z`))

/** "a, b and c" */
export const joinWords = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}`

/**
 * Letter of the n-th of a list, from 0: A to Z, then A1.
 *
 * @example
 * import { letterOf } from '@/plan/document/words'
 *
 * console.log([letterOf(0), letterOf(26)]) // [ 'A', 'A1' ]
 */
export const letterOf = (n: number): string =>
  String.fromCharCode(65 + (n % 26)) + (n >= 26 ? String(Math.floor(n / 26)) : '')
