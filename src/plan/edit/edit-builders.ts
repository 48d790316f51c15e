/** What can be done to a build, verb by verb, as the edits that do it: on the active plan unless said otherwise. */
import { fail, ok, type Result } from '@/core/result'
import { isThrough } from '../document/kinds'
import type { Build, Line, LineEnd, LogEntry, Part, Variant } from '../document/schema'
import { sameJson } from './diff'
import { activeVariant, applyEdits, type Edit, type Identified, type Path } from './edit'

/** The edits that do something to a build. Throws a RangeError with a sentence where it does not fit. */
export type EditBuilder = (build: Build) => readonly Edit[]

/** Several edit builders as one, each applied to what the one before it left. */
export const chain =
  (...builders: readonly EditBuilder[]): EditBuilder =>
  (build) => {
    let now = build
    const all: Edit[] = []
    builders.forEach((builder, i) => {
      const edits = builder(now)
      all.push(...edits)
      if (i === builders.length - 1) return
      const then = applyEdits(now, edits)
      if (!then.ok) throw new RangeError(then.reason)
      now = then.value
    })
    return all
  }

/**
 * The edits of several edit builders in turn; one that does not fit fails with its reason.
 *
 * @example
 * import { editsOf, setLine } from '@/plan/edit/edit-builders'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * console.log(editsOf(build, setLine(build.variants[0].lines[0].id, { boreMm: 19 })).ok) // true
 */
export function editsOf(build: Build, ...builders: readonly EditBuilder[]): Result<readonly Edit[]> {
  try {
    return ok(chain(...builders)(build))
  } catch (error) {
    return fail(error instanceof RangeError ? error.message : 'That does not fit this build.')
  }
}

/**
 * Applies edit builders one after another; nothing is changed where one does not fit.
 *
 * @example
 * import { perform, setPart } from '@/plan/edit/edit-builders'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const changed = perform(build, setPart('no such part', { bowlMl: 600 }))
 * console.log(changed.ok) // false
 */
export function perform(build: Build, ...builders: readonly EditBuilder[]): Result<Build> {
  const edits = editsOf(build, ...builders)
  return edits.ok ? applyEdits(build, edits.value) : edits
}

/**
 * Sets a field of the build; undefined takes it away.
 *
 * @example
 * import { perform, setField } from '@/plan/edit/edit-builders'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const changed = perform(build, setField(['engine', 'boreMm'], 84))
 * console.log(changed.ok && changed.value.engine.boreMm) // 84
 */
export const setField =
  (path: Path, value: unknown): EditBuilder =>
  () => [value === undefined ? { op: 'unset', path } : { op: 'set', path, value }]

/** What leads to the active plan, and the plan. */
type PathStart = { readonly v: Variant; readonly at: (...names: readonly string[]) => Path }
const onPlan =
  (builder: (place: PathStart) => readonly Edit[]): EditBuilder =>
  (build) => {
    const v = activeVariant(build)
    return builder({ v, at: (...names) => ['variants', v.id, ...names] })
  }

/** Edits that give a record other fields; what stays as it is makes none. */
function fields(record: object, path: Path, change: object): Edit[] {
  const now = record as Readonly<Record<string, unknown>>
  return Object.entries(change).flatMap(([key, value]): Edit[] => {
    if (sameJson(now[key], value)) return []
    return [value === undefined ? { op: 'unset', path: [...path, key] } : { op: 'set', path: [...path, key], value }]
  })
}
const insert = (path: Path, value: Identified, before: string | null = null): Edit => ({
  op: 'insert',
  path: [...path, value.id],
  value,
  before,
})
const remove = (path: Path): Edit => ({ op: 'remove', path })

function known<T extends Identified>(list: readonly T[], id: string): T {
  const found = list.find((x) => x.id === id)
  if (!found) throw new RangeError(`${id} is not there any more.`)
  return found
}

/**
 * Changes a line of the active plan.
 *
 * @example
 * import { perform, setLine } from '@/plan/edit/edit-builders'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const [{ id }] = build.variants[0].lines
 * const changed = perform(build, setLine(id, { boreMm: 19 }))
 * console.log(changed.ok && changed.value.variants[0].lines[0].boreMm) // 19
 */
export const setLine = (id: string, change: Partial<Line>): EditBuilder =>
  onPlan(({ v, at }) => fields(known(v.lines, id), at('lines', id), change))

/**
 * Changes a part of the active plan.
 *
 * @example
 * import { perform, setPart } from '@/plan/edit/edit-builders'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const changed = perform(build, setPart('can', { bowlMl: 600 }))
 * console.log(changed.ok && changed.value.variants[0].parts.find((p) => p.id === 'can').bowlMl) // 600
 */
export const setPart = (id: string, change: Readonly<Record<string, unknown>>): EditBuilder =>
  onPlan(({ v, at }) => fields(known(v.parts, id), at('parts', id), change))

/**
 * A figure of a part as its builder measured or read it: known for itself, and the part is no catalogue model any more.
 *
 * @example
 * import { measurePart, perform } from '@/plan/edit/edit-builders'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const changed = perform(build, measurePart('can', 'bowlMl', 540))
 * console.log(changed.ok && changed.value.variants[0].parts.find((p) => p.id === 'can').measured) // [ 'bowlMl' ]
 */
export const measurePart = (id: string, key: string, value: unknown): EditBuilder =>
  onPlan(({ v, at }) => {
    const part = known(v.parts, id)
    const measured = [...new Set([...(part.measured ?? []), ...(value === undefined ? [] : [key])])]
    return fields(part, at('parts', id), { [key]: value, measured, ...('model' in part ? { model: 'own' } : {}) })
  })
/** Changes the active plan itself: its name, its notes. */
export const setPlan = (change: Partial<Variant>): EditBuilder => onPlan(({ v, at }) => fields(v, at(), change))

/** The longest id that documents take. */
const MOST_ID = 40
/** An id that nothing in the variant has yet: `wanted`, else wanted-2, wanted-3... */
export function freshId(variant: Variant, wanted: string): string {
  const taken = new Set([...variant.parts.map((p) => p.id), ...variant.lines.map((l) => l.id)])
  const base = wanted.slice(0, MOST_ID)
  let id = base
  for (let n = 2; taken.has(id); n++) id = `${base.slice(0, MOST_ID - 1 - String(n).length)}-${n}`
  return id
}

/** Length in mm that stays with the near end when a part is spliced in close to it. */
const NEAR_MM = 80
export type Near = 'from' | 'middle' | 'to'

/** Length of the hose that stays on the `from` side of what is spliced in. */
function firstLength(line: Line, near: Near): number {
  if (line.kind === 'direct') return 0
  if (near === 'middle') return line.lengthMm / 2
  return near === 'from' ? Math.min(NEAR_MM, line.lengthMm / 2) : Math.max(line.lengthMm - NEAR_MM, line.lengthMm / 2)
}

/** Cuts a line and puts a part with ports in and out there; gas that runs the line's way enters at `in`, unless reversed. */
export const splice = (lineId: string, part: Part, near: Near, reversed = false): EditBuilder =>
  onPlan(({ v, at }) => {
    const line = known(v.lines, lineId)
    if (!isThrough(part.kind)) throw new RangeError(`${part.name} has no way through.`)
    const placed = { ...part, id: freshId(v, part.id) }
    const first = firstLength(line, near)
    const [into, out] = reversed ? ['out', 'in'] : ['in', 'out']
    const after: Line = {
      ...line,
      id: freshId(v, `${line.id}-after`),
      name: `${line.name}, after ${placed.name.toLowerCase()}`,
      from: { part: placed.id, port: out! },
      lengthMm: line.lengthMm - first,
      // how high the part stands is not known yet
      riseMm: undefined,
      bends: near === 'from' ? line.bends : [],
    }
    return [
      insert(at('parts'), placed),
      ...fields(line, at('lines', line.id), {
        to: { part: placed.id, port: into },
        lengthMm: first,
        riseMm: undefined,
        bends: near === 'from' ? [] : line.bends,
      }),
      insert(at('lines'), after, v.lines[v.lines.indexOf(line) + 1]?.id ?? null),
    ]
  })

/** Takes a spliced part out again and makes one line of its two. */
export const unsplice = (partId: string): EditBuilder =>
  onPlan(({ v, at }) => {
    const part = known(v.parts, partId)
    const touching = v.lines.filter((l) => l.from.part === partId || l.to.part === partId)
    if (!isThrough(part.kind) || touching.length !== 2)
      throw new RangeError(`${part.name} does not stand between two lines.`)
    const [a, b] = touching as [Line, Line]
    const outer = (l: Line) => (l.from.part === partId ? l.to : l.from)
    const joined: Line = {
      ...(a.kind !== 'direct' ? a : { ...b, id: a.id }),
      kind: a.kind === b.kind ? a.kind : 'hose',
      from: outer(a),
      to: outer(b),
      lengthMm: a.lengthMm + b.lengthMm,
      riseMm: a.riseMm === undefined || b.riseMm === undefined ? undefined : a.riseMm + b.riseMm,
      bends: [...a.bends, ...b.bends],
      boreMm: a.kind !== 'direct' && b.kind !== 'direct' ? Math.min(a.boreMm, b.boreMm) : Math.max(a.boreMm, b.boreMm),
    }
    return [...fields(a, at('lines', a.id), joined), remove(at('lines', b.id)), remove(at('parts', part.id))]
  })

/** Puts a part into the circuit, joined to nothing yet. */
export const addPart = (part: Part): EditBuilder =>
  onPlan(({ v, at }) => [insert(at('parts'), { ...part, id: freshId(v, part.id) })])

/** Takes a part out with every line that ends at it; their other ends are capped. */
export const removePart = (id: string): EditBuilder =>
  onPlan(({ v, at }) => [
    ...v.lines.filter((l) => l.from.part === id || l.to.part === id).map((l) => remove(at('lines', l.id))),
    remove(at('parts', known(v.parts, id).id)),
  ])

/** Joins two ports; a space gets a new port where the line names one that it has not. */
export const join = (wanted: Line): EditBuilder =>
  onPlan(({ v, at }) => {
    const line = { ...wanted, id: freshId(v, wanted.id) }
    const ports = [line.from, line.to].flatMap((end): Edit[] => {
      const part = known(v.parts, end.part)
      if (v.lines.some((l) => [l.from, l.to].some((e) => e.part === end.part && e.port === end.port)))
        throw new RangeError(`${part.name} already has a line there.`)
      if (part.ports.some((p) => p.id === end.port)) return []
      if (isThrough(part.kind)) throw new RangeError(`${part.name} has no port ${end.port}.`)
      return [insert(at('parts', part.id, 'ports'), { id: end.port, name: 'Added port' } as Identified)]
    })
    return [...ports, insert(at('lines'), line)]
  })

/** Leads a separator's return: the separator gets a drain port where it has none, and gives back what it catches. */
export const joinDrain =
  (wanted: Line): EditBuilder =>
  (build) => {
    const can = known(activeVariant(build).parts, wanted.from.part)
    if (can.kind !== 'can') throw new RangeError(`${can.name} is no separator.`)
    const { port } = wanted.from
    const at = ['variants', build.active, 'parts', can.id] as const
    const first: Edit[] = [
      ...(can.ports.some((p) => p.id === port)
        ? []
        : [insert([...at, 'ports'], { id: port, name: 'Drain' } as Identified)]),
      ...fields(can, at, { drain: 'own' }),
    ]
    return chain(() => first, join(wanted))(build)
  }

/** Takes a line off; both ports are capped. */
export const cut = (lineId: string): EditBuilder =>
  onPlan(({ v, at }) => [remove(at('lines', known(v.lines, lineId).id))])

const swapped = (end: LineEnd): LineEnd => ({
  ...end,
  port: end.port === 'in' ? 'out' : end.port === 'out' ? 'in' : end.port,
})

/** What was joined to `in` is joined to `out`, and the other way about. */
export const reverseValve = (partId: string): EditBuilder =>
  onPlan(({ v, at }) => {
    const part = known(v.parts, partId)
    const end = (e: LineEnd) => (e.part === part.id ? swapped(e) : e)
    return v.lines.flatMap((l) => fields(l, at('lines', l.id), { from: end(l.from), to: end(l.to) }))
  })

/**
 * Makes a plan the active one.
 *
 * @example
 * import { perform, showPlan } from '@/plan/edit/edit-builders'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const b = { ...build.variants[0], id: 'b' }
 * const changed = perform({ ...build, variants: [...build.variants, b] }, showPlan('b'))
 * console.log(changed.ok && changed.value.active) // 'b'
 */
export const showPlan = (id: string): EditBuilder => setField(['active'], id)

/** Adds a plan and shows it. */
export const addPlan =
  (variant: Variant): EditBuilder =>
  () => [insert(['variants'], variant), ...showPlan(variant.id)({} as Build)]

/** Takes a plan out; another is shown if it was the active one. Throws a RangeError on the last: a build has one. */
export const removePlan =
  (id: string): EditBuilder =>
  (build) => {
    const gone = known(build.variants, id)
    const next = build.variants.find((v) => v !== gone)
    if (!next) throw new RangeError('The last plan of a build stays.')
    return [...(build.active === id ? showPlan(next.id)(build) : []), remove(['variants', id])]
  }

/** Whether one entry stands before another in the log. */
const earlier = (a: LogEntry, b: LogEntry) => (a.date === b.date ? a.odometerKm < b.odometerKm : a.date < b.date)

/**
 * Notes an entry in the log, or puts a corrected one in its place. A can fitted last of all puts its plan on the car.
 *
 * @example
 * import { perform, upsertLogEntry } from '@/plan/edit/edit-builders'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const entry = { id: 'e1', kind: 'fitted', date: '2026-05-30', odometerKm: 81_000, can: 'can' }
 * const changed = perform(build, upsertLogEntry(entry))
 * console.log(changed.ok && changed.value.log.length) // 1
 */
export const upsertLogEntry =
  (entry: LogEntry): EditBuilder =>
  ({ log, fitted }) => {
    const next = log.find((e) => e.id !== entry.id && earlier(entry, e))
    const put = insert(['log'], entry, next?.id ?? null)
    const onCar =
      entry.kind === 'fitted' && next === undefined && fitted !== undefined && entry.plan !== undefined
        ? setField(['fitted'], entry.plan)({} as Build)
        : []
    return [...(log.some((e) => e.id === entry.id) ? [remove(['log', entry.id])] : []), put, ...onCar]
  }

/** Takes an entry out of the log. */
export const deleteLogEntry =
  (id: string): EditBuilder =>
  ({ log }) => [remove(['log', known(log, id).id])]
