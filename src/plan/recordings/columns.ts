/** What the columns of a logger's file are: guessed from head, unit and figures, each with its reason, and put right by hand. */
import { LOGGER_UNITS, type ColumnRole, ROLE_FACTS, type RoleFacts } from './roles'

export type ColumnMeaning = {
  readonly name: string
  /** as the file has it; empty where it says none */
  readonly unit: string
  readonly role: ColumnRole
  /** of a pressure: over the surroundings, or over nothing */
  readonly gauge: boolean
  /** why it is taken for that, in words */
  readonly reason: string
}

/** Figures of a column in the first rows. */
export type ColumnSample = { readonly name: string; readonly unit: string; readonly values: readonly number[] }

const plain = (name: string) =>
  name
    .toLowerCase()
    .replaceAll(/[^a-z\d]+/g, ' ')
    .trim()

/** Whether a column of this role holds a pressure. */
export const isPressure = (role: ColumnRole): boolean => ROLE_FACTS[role].quantity === 'pressure'

/** By its head; undefined where that says nothing. */
function byName(name: string): [ColumnRole, RoleFacts] | undefined {
  const words = plain(name)
  return (Object.entries(ROLE_FACTS) as [ColumnRole, RoleFacts][]).find(([, facts]) => facts.named?.test(words))
}

/** Range of the figures that are there. */
function rangeIn(values: readonly number[]): readonly [low: number, high: number] | undefined {
  const there = values.filter(Number.isFinite)
  if (there.length === 0) return undefined
  return [Math.min(...there), Math.max(...there)]
}

/** In Pa for a pressure, as its unit says; a unit that is not known counts as kPa. */
const inPa = (x: number, unit: string) => x * (LOGGER_UNITS.pressure[unitKey(unit)] ?? 1000)

/** A unit as it is looked up: without degrees, brackets and blanks. */
export const unitKey = (unit: string): string =>
  unit
    .toLowerCase()
    .replaceAll(/[[\]()°\s]/g, '')
    .replace('kpag', 'kpa')
    .replace('kpaa', 'kpa')

/** Manifolds never see less than this for long, Pa; a crankcase that shows so much is read over nothing. */
const [LEAST_ABSOLUTE, CRANKCASE_ABSOLUTE] = [8000, 60_000]

/** Gauge or absolute, by the unit or the figures. */
function gaugeOf(role: ColumnRole, { unit, values }: ColumnSample): readonly [gauge: boolean, why: string] {
  if (/abs|kpaa|psia/i.test(unit)) return [false, 'its unit says absolute']
  if (/gauge|kpag|psig|rel/i.test(unit)) return [true, 'its unit says gauge']
  const range = rangeIn(values)
  if (!range) return [role === 'crankcase', 'as is usual']
  const low = inPa(range[0], unit)
  if (role === 'crankcase')
    return low > CRANKCASE_ABSOLUTE
      ? [false, 'it stands about the pressure outside, so it counts from nothing']
      : [true, 'it stands about zero, so it counts from the pressure outside']
  return low < LEAST_ABSOLUTE
    ? [true, 'it goes below what a manifold can reach, so it counts from the pressure outside']
    : [false, 'it never falls below what a manifold reaches, so it counts from nothing']
}

/** By its figures alone, where the head says nothing: what is unmistakable. */
function byFigures(values: readonly number[]): readonly [ColumnRole, string] | undefined {
  const range = rangeIn(values)
  if (!range) return undefined
  const [low, high] = range
  if (low >= 300 && high > 1200 && high < 20_000 && values.every((v) => !Number.isFinite(v) || v % 1 === 0))
    return ['rpm', 'whole figures between 300 and 20 000, as engine speeds are']
  return undefined
}

/** What each column of a file most likely is; every part is given to one column at most, the first that names it. */
export function guessRoles(samples: readonly ColumnSample[]): readonly ColumnMeaning[] {
  const taken = new Set<ColumnRole>()
  const named = samples.map((s) => {
    const found = byName(s.name)
    if (!found || taken.has(found[0])) return undefined
    if (found[0] !== 'other') taken.add(found[0])
    return found[0]
  })
  return samples.map((s, k) => {
    const role = named[k]
    if (role) {
      const [gauge, why] = isPressure(role) ? gaugeOf(role, s) : ([false, ''] as const)
      return { name: s.name, unit: s.unit, role, gauge, reason: `its head is “${s.name}”${why ? `; ${why}` : ''}` }
    }
    const found = byFigures(s.values)
    if (found && !taken.has(found[0])) {
      taken.add(found[0])
      return { name: s.name, unit: s.unit, role: found[0], gauge: false, reason: found[1] }
    }
    return { name: s.name, unit: s.unit, role: 'other', gauge: false, reason: 'nothing says what it is: kept as it is' }
  })
}

/**
 * What is the same of two files whose heads are: the columns' names and units, in their order.
 *
 * @example
 * import { headKey } from '@/plan/recordings/columns'
 *
 * console.log(headKey([{ name: 'rpm', unit: 'rpm' }, { name: 'map', unit: 'kPa' }])) // 'rpm[rpm]|map[kPa]'
 */
export const headKey = (columns: readonly Pick<ColumnMeaning, 'name' | 'unit'>[]): string =>
  columns.map((c) => `${c.name}[${c.unit}]`).join('|')
