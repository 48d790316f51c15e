/** Edits and the places they touch, in the words of the builder. */
import { formatNumber, quantityText } from '@/core/units/format'
import { toSi } from '@/core/units/units'
import {
  DUTY_FIELDS,
  ENGINE_FIELDS,
  fieldsOfPart,
  isCurve,
  KEPT,
  LINE_FIELDS,
  OVERRIDE_FIELDS,
  SITE_FIELDS,
  type Field,
} from '../document/fields'
import type { Build } from '../document/schema'
import { lowered } from '../document/words'
import { valueAt, type Edit, type Path } from './edit'

type NamedThing = { readonly id: string; readonly name: string; readonly kind?: string }

/** Words for fields that are no numbers. */
const WORDS: Readonly<Record<string, string>> = {
  name: 'name',
  active: 'plan shown',
  fitted: 'plan on the car',
  units: 'units',
  about: 'line under the name',
  tags: 'tags',
  away: 'put away',
  from: 'end it starts from',
  to: 'end it leads to',
  bends: 'bends',
  stuck: 'stuck',
  stages: 'stages',
  model: 'model',
  at: 'place in the picture',
  layout: 'layout',
  induction: 'induction',
  injection: 'injection',
  rings: 'rings',
  pickUp: 'breather pick-up',
  fuel: 'fuel',
  sump: 'sump',
  pistons: 'pistons',
  blowBy: 'measured blow-by',
  hours: 'hours of use',
  tyres: 'tyres on track',
  bench: 'what there is to build with',
  bowl: 'side of the bowl',
  school: 'school',
}

/** The number at a path, if the tables know it. */
function fieldAt(build: Build, path: Path): Field | undefined {
  const [head, second, list, id, name] = path
  const of = (table: Readonly<Record<string, unknown>>, key: string | undefined) => {
    const f = key !== undefined && Object.hasOwn(table, key) ? (table[key] as Field) : undefined
    return f && 'min' in f ? f : undefined
  }
  if (head === 'engine') return second === 'overrides' ? of(OVERRIDE_FIELDS, id) : of(ENGINE_FIELDS, second)
  if (head === 'site') return of(SITE_FIELDS, second)
  if (head === 'duty') return of(DUTY_FIELDS, second)
  if (head !== 'variants' || id === undefined) return undefined
  if (list === 'lines') return of(LINE_FIELDS, name)
  const part = valueAt(build, path.slice(0, 4)) as NamedThing | undefined
  const found = list === 'parts' && part?.kind ? of(fieldsOfPart(part.kind), name) : undefined
  return found && !isCurve(found) ? found : undefined
}

/** "Suction line, bore": what stands at a path, named from `build` or, where it is not there, from `fallback`. */
export function placeName(build: Build, path: Path, fallback: Build = build): string {
  const [head, second, list, id, name] = path
  const named = (p: Path) => (valueAt(build, p) ?? valueAt(fallback, p)) as NamedThing | undefined
  const field = fieldAt(build, path) ?? fieldAt(fallback, path)
  const word = (key: string | undefined) =>
    field ? lowered(field.label) : key === undefined ? '' : (WORDS[key] ?? key)
  const join = (thing: string, key: string | undefined) => (key === undefined ? thing : `${thing}, ${word(key)}`)
  switch (head) {
    case 'variants': {
      const plan = named(path.slice(0, 2))?.name ?? 'A plan'
      if (list === undefined) return plan
      if (id === undefined) return join(plan, list)
      return join(named(path.slice(0, 4))?.name ?? id, name)
    }
    case 'engine':
      return join('Engine', second === 'overrides' ? (id ?? list) : second)
    case 'site':
      return join('Place', second)
    case 'duty':
      return join('Use', second)
    case 'log':
      return 'Log entry'
    default:
      return head === undefined ? 'The build' : `The build, ${word(head)}`
  }
}

/** A value as it is read at its place. */
export function valueText(build: Build, path: Path, value: unknown): string {
  if (value === undefined || value === null) return 'nothing'
  const field = fieldAt(build, path)
  if (typeof value === 'number') {
    if (!field?.kept) return formatNumber(value, 4)
    const [dimension, unit] = KEPT[field.kept]
    // as it was typed: 12.7, not 12.70
    return quantityText(toSi(dimension, value, unit), dimension, build.units, 4).replace(
      /(\.\d*?)0+(?= |$)/,
      (_, kept) => (kept === '.' ? '' : String(kept)),
    )
  }
  if (typeof value === 'string') {
    if (path[0] === 'active') return build.variants.find((v) => v.id === value)?.name ?? value
    return value
  }
  const { name, part } = value as { name?: unknown; part?: unknown }
  if (typeof name === 'string') return name
  return typeof part === 'string' ? `at ${part}` : 'another figure'
}

function one(build: Build, edit: Edit): string {
  const place = placeName(build, edit.path)
  switch (edit.op) {
    case 'set':
      return `${place}: ${valueText(build, edit.path, edit.value)}`
    case 'unset':
      return `${place}: cleared`
    case 'insert': {
      const { name } = edit.value as Partial<NamedThing>
      return edit.path[0] === 'log' ? 'Log entry' : `${name ?? place} added`
    }
    case 'remove':
      return edit.path[0] === 'log' ? 'Log entry struck' : `${place} taken away`
  }
}

/**
 * What edits do, named by the first of them. `build` is as it was before.
 *
 * @example
 * import { describeEdits } from '@/plan/edit/describe'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(describeEdits(build, [{ op: 'set', path: ['name'], value: 'Track four' }])) // 'The build, name: Track four'
 */
export function describeEdits(build: Build, edits: readonly Edit[]): string {
  const [first, ...rest] = edits
  if (!first) return 'nothing'
  return rest.length === 0 ? one(build, first) : `${one(build, first)}, and ${rest.length} more`
}
